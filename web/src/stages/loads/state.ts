import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** Whether there is a lap to judge by. */
export function useLoadsState(): StageState {
  const { build } = useBuildView();
  return build.lap_id ? { mark: "good", word: "1 lap" } : { mark: "nothing", word: "no lap" };
}
