import type { Schemas } from "../api/client";
import type { BuildOut } from "../api/queries";
import type { MarkState } from "./Mark";

type Told = Schemas["VerdictOut"];

/** A verdict as it is shown: of a template's numbers it is nobody's yet. */
export type ShownVerdict = Omit<Told, "state"> & { state: Told["state"] | "not_yours" };

export const VERDICT_MARKS: Record<ShownVerdict["state"], MarkState> = {
  not_safe: "bad",
  caution: "caution",
  sound: "good",
  no_lap: "nothing",
  faulty: "bad",
  not_yours: "nothing",
};

/** What the oil lies in: before these are measured a verdict judges somebody else's engine. */
const JUDGED = ["car", "pan"] as const;

/** The verdict on a builder's own numbers; on a template's, that it is not theirs yet. */
export function yours(verdict: Told, invented: BuildOut["invented"]): ShownVerdict {
  const missing = JUDGED.filter((part) => invented.includes(part));
  if (missing.length === 0 || verdict.state === "faulty") return verdict;
  const both = missing.length === 2;
  const what = both ? "Car and pan are" : `The ${missing.join("")} is`;
  const so =
    verdict.dry_s === null
      ? `put in your own. ${verdict.headline}: ${lowered(verdict.sentence)}`
      : `and as ${both ? "they are" : "it is"} ${lowered(verdict.sentence)}`;
  return {
    ...verdict,
    state: "not_yours",
    headline: "Not yours yet",
    sentence: `${what} a template's, ${so}`,
  };
}

const lowered = (sentence: string): string => sentence.charAt(0).toLowerCase() + sentence.slice(1);
