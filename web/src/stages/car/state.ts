import { usePan } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** Whether the car is measured, and clears the ground. */
export function useCarState(): StageState {
  const { build, isCalm } = useBuildView();
  const ground = usePan(build, isCalm).data?.ground;
  const { place, rail_height_mm: height, crank, keep_outs: around } = build.document.car;
  if (ground?.margin_mm != null && ground.margin_mm < 0) return { mark: "bad", word: "too low" };
  if (build.invented.includes("car")) return { mark: "nothing", word: "not yours" };
  const isGuessed = crank?.assumed || around.some(({ assumed }) => assumed);
  if (place == null || height == null || isGuessed) return { mark: "started", word: "started" };
  return { mark: "good", word: "sound" };
}
