import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** Whether there is a lap to judge by. */
export function useLoadsState(): StageState {
  const { build } = useBuildView();
  const count = build.judged_by.length;
  if (count === 0) return { mark: "nothing", word: "no lap" };
  return { mark: "good", word: count === 1 ? "1 lap" : `${count} laps` };
}
