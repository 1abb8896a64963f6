import type { Live, LiveNow, LivePoint } from "../../api/live";

/** What is said in the largest letters. */
export interface Said {
  state: "good" | "caution" | "bad" | "nothing";
  words: string;
}

/** Of what is expected, so much less is worth a look. */
const LOW = 0.85;
/** A corner is near so long before it [s]. */
const NEAR = 4;

/** What the pressure says now. */
export function pressureSaid(now: LiveNow): Said {
  if (now.is_short) return { state: "bad", words: "dips" };
  if (now.expected_bar === null) return { state: "nothing", words: "place not known yet" };
  if (now.bar < LOW * now.expected_bar)
    return { state: "caution", words: "under what is expected" };
  return { state: "good", words: "as expected" };
}

/** What the next corner may bring. */
export function cornerSaid(now: LiveNow): Said {
  const { corner } = now;
  if (!corner) return { state: "nothing", words: "after the line" };
  const state = corner.dips_for_s > 0 ? (corner.until_s <= NEAR ? "bad" : "caution") : "good";
  const when = corner.until_s > 0 ? `in ${corner.until_s.toFixed(0)} s` : "now";
  return {
    state,
    words:
      corner.dips_for_s > 0
        ? `${when}: expected down to ${corner.lowest_bar.toFixed(1)} bar`
        : `${when}: ${corner.lowest_bar.toFixed(1)} bar expected, no dip`,
  };
}

/** How many dips: on this lap, the one before, and as forecast. */
export const dipsSaid = (now: LiveNow): string =>
  `${now.dips} on this lap${now.dips_last === null ? "" : `, ${now.dips_last} on the last`}, ${now.dips_expected} forecast`;

/** The line of one figure of some points, as an SVG path; broken where it is not known. */
export function pathOf(
  points: readonly LivePoint[],
  of: (point: LivePoint) => number | null,
  x: (t: number) => number,
  y: (bar: number) => number,
): string {
  let pen = false;
  return points
    .map((point) => {
      const value = of(point);
      const step =
        value === null ? "" : `${pen ? "L" : "M"}${x(point.t).toFixed(1)} ${y(value).toFixed(1)}`;
      pen = value !== null;
      return step;
    })
    .join("");
}

/** The command that plays a log as a logger would. */
export const playWords = ({ key, port }: Pick<Live, "key" | "port">): string =>
  `./bilge play LOG.csv --key ${key}${port === null ? "" : ` --port ${port}`}`;
