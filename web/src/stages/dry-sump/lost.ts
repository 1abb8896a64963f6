import type { Schemas } from "../../api/client";
import type { Dry } from "../../api/dry";
import type { Place } from "../../plots/labels";
import type { Dial } from "../../plots/rose";

export type Carried = Schemas["CarriedOut"];
export type Lost = Schemas["LostOut"];
export type ScavengeRose = NonNullable<Dry["rose"]>;

/** Where the capacity's edge lies on the page: the page shows where oil is thrown, forward up. */
export const capacityPlaces = (
  { size, radius, rim }: Dial,
  { thrown_deg: thrown, capacity }: ScavengeRose,
): Place[] =>
  thrown.map((degrees, at) => {
    const far = (Math.min(capacity[at] ?? 0, rim) / rim) * radius;
    const angle = (degrees * Math.PI) / 180;
    return [size / 2 - far * Math.sin(angle), size / 2 - far * Math.cos(angle)];
  });

const SIDES = [
  "forward",
  "forward and left",
  "left",
  "back and left",
  "back",
  "back and right",
  "right",
  "forward and right",
];

/** Which way oil is thrown, in words. */
export const thrownWord = (degrees: number): string =>
  SIDES[Math.round((((degrees % 360) + 360) % 360) / 45) % 8] ?? "forward";

/** The rose's weakest direction in a sentence. */
export function roseSentence({ thrown_deg, capacity, left_l, load_g }: ScavengeRose): string {
  const least = Math.min(...capacity);
  const at = capacity.indexOf(least);
  const way = thrownWord(thrown_deg[at] ?? 0);
  const left = left_l[at];
  const lies =
    left == null ? "they never keep up there" : `${left.toFixed(1)} L stay in the pan there`;
  return `Weakest with ${load_g.toFixed(2)} g throwing oil ${way}: the stages that have oil sweep ${least.toFixed(1)} times what comes down, and ${lies}.`;
}

/** A share of a hundred, the small ones not told to nothing. */
const percent = (share: number): string => (share < 1 ? "under 1 %" : `${share.toFixed(0)} %`);

/** Why restrictors and lengths of hose save nothing, and what does, in a sentence. */
export const alikeSentence = ({ restrictors_pct: holes, hoses_pct: hoses }: Dry["alike"]): string =>
  `Neither restrictors nor hoses of one length save it. Through the same restrictor air goes so much more readily that the one in oil gets ${percent(holes)} of the stage, through the same hose ${percent(hoses)}. What does: a stage for each; or, where they are drains, each branch falling to the junction with a margin of its own, which Drains works out.`;

/** What the separator does to the gas on its way, in a sentence. */
export function carriedSentence(carried: Carried): string {
  const brings = `Over the lap ${carried.joined_pct} % of what the stages bring is gas.`;
  const guess = `taken to hold back ${carried.taken_out_pct} % of the gas, a guess`;
  switch (carried.order) {
    case "ahead":
      return `${brings} The separator ahead of the cooler (${guess}) leaves ${carried.cooler_pct} % to go through the cooler: dense oil gives up its heat better, and less of it must go through.`;
    case "after":
      return `${brings} All of it goes through the cooler; the separator after it (${guess}) leaves ${carried.tank_pct} % for the tank.`;
    case "alone":
      return `${brings} The separator (${guess}) leaves ${carried.tank_pct} % for the tank; there is no cooler.`;
    case "none":
      return `${brings} There is no separator: ${carried.cooler_pct === null ? "" : "the cooler and "}the tank ${carried.cooler_pct === null ? "has" : "have"} all of it.`;
  }
}
