import type { Schemas } from "../api/client";

type Verdict = Schemas["VerdictOut"];
export type OverLap = Schemas["OverLap"];

/** What a build is worth: the worst of the laps that it is judged by. */
export interface Judged {
  verdict: Verdict;
  /** The lap that it does worst over, where there are others. */
  lapName: string | null;
  /** Of moving oil. */
  moves: boolean;
  /** Of the pan's oil and the gallery alone, over the lap where these do worst. */
  oil: Verdict;
}

const MOVING = "Moving oil";

/** Whether a verdict is of moving oil, by its model's name. */
export const isMoving = (model: string): boolean => model.startsWith(MOVING);

const lowered = (sentence: string): string => sentence.charAt(0).toLowerCase() + sentence.slice(1);

/** A sentence that says over which lap. */
export const overLap = (name: string, sentence: string): string =>
  `Over ${name}: ${lowered(sentence)}`;

const oilOf = (
  shown: { verdict: Verdict; lapId: number | null },
  over: readonly OverLap[],
): Verdict => {
  const worst = over.find(({ oil_rank: rank }) => rank === 0);
  return !worst || worst.lap_id === shown.lapId ? shown.verdict : worst.oil;
};

/**
 * The verdict of the head. The server has put the worst lap first and weighed the drains in; over
 * the lap shown it is the verdict on the screen where settled oil was asked for.
 */
export function judgedBy(
  shown: { verdict: Verdict; lapId: number | null; moves: boolean },
  over: readonly OverLap[],
): Judged {
  const [worst] = over;
  if (!worst)
    return { verdict: shown.verdict, lapName: null, moves: shown.moves, oil: shown.verdict };
  const several = over.length > 1;
  const isShown = worst.lap_id === shown.lapId;
  // the server's counts the drains: another model's verdict is shown only where oil decides
  const isOther = shown.moves !== isMoving(worst.model) && worst.speaks === "oil";
  const verdict = isShown && isOther ? shown.verdict : worst.verdict;
  return {
    verdict: several
      ? { ...verdict, sentence: overLap(worst.lap_name, verdict.sentence) }
      : verdict,
    lapName: several ? worst.lap_name : null,
    moves: isShown ? shown.moves : isMoving(worst.model),
    oil: oilOf(shown, over),
  };
}
