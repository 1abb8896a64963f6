import type { Live, LiveNow, LivePoint } from "../../api/live";

/** What is said in the largest letters. */
export interface Said {
  state: "good" | "caution" | "bad" | "nothing";
  words: string;
}

const PRESSURE: Readonly<Record<LiveNow["stands"], Said>> = {
  dips: { state: "bad", words: "dips" },
  under: { state: "caution", words: "under what is expected" },
  as_expected: { state: "good", words: "as expected" },
  not_known: { state: "nothing", words: "place not known before the line" },
};
const RISK = { none: "good", later: "caution", near: "bad" } as const;

/** What the pressure says now. */
export const pressureSaid = (now: LiveNow): Said => PRESSURE[now.stands];

/** What the next corner may bring. */
export function cornerSaid({ corner }: LiveNow): Said {
  if (!corner) return { state: "nothing", words: "after the line" };
  const when = corner.until_s > 0 ? `in ${corner.until_s.toFixed(0)} s` : "now";
  const low = corner.lowest_bar.toFixed(1);
  return {
    state: RISK[corner.risk],
    words:
      corner.risk === "none"
        ? `${when}: ${low} bar expected, no dip`
        : `${when}: expected down to ${low} bar`,
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
