import { useLines } from "../../api/lines";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** How many of the lines are sound, in two words. */
export function useLinesState(): StageState {
  const { build, isCalm } = useBuildView();
  const told = useLines(build, isCalm).data;
  if (!told) return { mark: "nothing", word: "" };
  const { lines } = told.lines;
  if (lines.length === 0) return { mark: "nothing", word: "no lines" };
  const good = lines.filter(({ state }) => state === "good").length;
  const bad = lines.filter(({ state }) => state === "bad").length;
  const laid = lines.filter(({ length_mm: length }) => length !== null).length;
  if (bad > 0) return { mark: "bad", word: `${bad} of ${lines.length} bad` };
  if (laid === 0) return { mark: "nothing", word: "none laid" };
  return { mark: good === lines.length ? "good" : "started", word: `${good} of ${lines.length}` };
}
