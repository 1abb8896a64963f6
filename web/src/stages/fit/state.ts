import { useFit } from "../../api/fit";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** How the last round stands, in two words. */
export function useFitState(): StageState {
  const { build, isCalm } = useBuildView();
  const fit = useFit(build, isCalm).data?.fit;
  if (!fit) return { mark: "nothing", word: "" };
  const round = fit.rounds.at(-1);
  if (!round) return { mark: "nothing", word: "no round" };
  if (round.closed) return { mark: "good", word: `round ${round.number}` };
  const touches = fit.places.filter(({ state }) => state === "touches").length;
  if (touches > 0) return { mark: "bad", word: touches === 1 ? "1 touch" : `${touches} touch` };
  const tight = fit.places.filter(({ state }) => state === "tight").length;
  if (tight > 0) return { mark: "caution", word: `${tight} tight` };
  if (fit.places.length === 0) return { mark: "started", word: "no place" };
  const left = fit.open.length;
  return left > 0
    ? { mark: "started", word: `${left} to look` }
    : { mark: "good", word: "all sound" };
}
