import { stretchesAbove } from "../../plots/traces";

/** Points further apart than this are of two stretches [s]. */
const GAP = 0.25;

/** From when to when something was run. */
export const stretchesRun = (times: readonly number[]): [number, number][] =>
  stretchesAbove(
    times,
    times.map(() => 1),
    0,
    GAP,
  );

/** An SVG path through points, broken where nothing was run. */
export function tracedPath(
  times: readonly number[],
  values: readonly number[],
  x: (time: number) => number,
  y: (value: number) => number,
): string {
  let path = "";
  times.forEach((time, at) => {
    const goesOn = at > 0 && time - (times[at - 1] ?? 0) <= GAP;
    path += `${goesOn ? "L" : "M"}${x(time).toFixed(1)} ${y(values[at] ?? 0).toFixed(1)}`;
  });
  return path;
}
