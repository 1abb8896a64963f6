import { useDrySump } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { isDrySump } from "../../document/circuit/circuit";
import type { StageState } from "../../document/stage";
import { worstSize } from "./flow";

/** Wet, or the worst of a dry sump's sizes, in two words. */
export function useDrySumpState(): StageState {
  const { build, forecast, isCalm } = useBuildView();
  const isDry = isDrySump(build.document.circuit);
  const stage = useDrySump(build, forecast.latest?.finished?.id ?? null, isCalm && isDry).data;
  if (!isDry) return { mark: "nothing", word: "wet sump" };
  if (!stage?.dry) return { mark: "started", word: "dry" };
  const bad = stage.checks.some(({ state }) => state === "bad");
  const worst = worstSize(stage.dry);
  if (bad || worst?.state === "bad") return { mark: "bad", word: "not sound" };
  const seen = stage.dry.sizes.filter(({ state }) => state !== "good").length;
  if (worst) return { mark: "caution", word: seen === 1 ? "1 size" : `${seen} sizes` };
  return { mark: "good", word: `${stage.dry.stages.length} stages` };
}
