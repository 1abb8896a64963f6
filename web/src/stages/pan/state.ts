import { usePan } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** Whether the pan is measured, and what its checks say. */
export function usePanState(): StageState {
  const { build, isCalm } = useBuildView();
  const pan = usePan(build, isCalm).data;
  if (build.invented.includes("pan")) return { mark: "nothing", word: "not yours" };
  if (!pan) return { mark: "started", word: "drawn" };
  const wrong = pan.checks.filter(({ state }) => state !== "good");
  if (wrong.length === 0) return { mark: "good", word: "sound" };
  const mark = wrong.some(({ state }) => state === "bad") ? "bad" : "caution";
  return { mark, word: wrong.length === 1 ? "1 check" : `${wrong.length} checks` };
}
