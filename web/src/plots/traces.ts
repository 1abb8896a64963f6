/** Helpers for traces over time. */

/** Index of the sample nearest to a time; times rise. */
export function nearestIndex(times: readonly number[], time: number): number {
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) <= time) low = middle;
    else high = middle;
  }
  const before = time - (times[low] ?? 0);
  const after = (times[high] ?? 0) - time;
  return before <= after ? low : high;
}

/** Stretches of time in which values are above a limit, those closer than `gap` joined. */
export function stretchesAbove(
  times: readonly number[],
  values: readonly number[],
  limit: number,
  gap: number,
): [number, number][] {
  const found: [number, number][] = [];
  values.forEach((value, index) => {
    if (value <= limit) return;
    const time = times[index] ?? 0;
    const last = found.at(-1);
    if (last && time - last[1] <= gap) last[1] = time;
    else found.push([time, time]);
  });
  return found;
}

/** An SVG path through samples, thinned to about one a pixel but keeping each pixel's extremes. */
export function tracePath(
  times: readonly number[],
  values: readonly number[],
  x: (time: number) => number,
  y: (value: number) => number,
): string {
  let path = "";
  let column = NaN;
  let low = Infinity;
  let high = -Infinity;
  const flush = (): void => {
    if (Number.isNaN(column)) return;
    path += `${path ? "L" : "M"}${column} ${y(high).toFixed(1)}`;
    if (low !== high) path += `L${column} ${y(low).toFixed(1)}`;
  };
  times.forEach((time, index) => {
    const here = Math.round(x(time));
    const value = values[index] ?? 0;
    if (here !== column) {
      flush();
      column = here;
      low = high = value;
    }
    low = Math.min(low, value);
    high = Math.max(high, value);
  });
  flush();
  return path;
}

/** Round tick values from 0 to an end, about `wanted` of them. */
export function ticks(end: number, wanted: number): number[] {
  const rough = end / Math.max(1, wanted);
  const step = [1, 2, 5, 10, 20, 30, 60, 120, 300, 600].find((size) => size >= rough) ?? 1200;
  const found: number[] = [];
  for (let at = 0; at <= end; at += step) found.push(at);
  return found;
}

/** The next or previous dip from a moment, in the order driven; null when there is none. */
export function stepDip<T extends { worst_s: number }>(
  dips: readonly T[],
  time: number,
  way: 1 | -1,
): T | null {
  const driven = [...dips].sort((one, other) => one.worst_s - other.worst_s);
  const ahead = driven.filter((dip) =>
    way === 1 ? dip.worst_s > time + 0.011 : dip.worst_s < time - 0.011,
  );
  return (way === 1 ? ahead[0] : ahead[ahead.length - 1]) ?? null;
}

/** Where the car throws the oil at a moment, in words; from the loads alone. */
export function oilLies(sideG: number, foreG: number): string {
  const words: string[] = [];
  if (Math.abs(sideG) > 0.25) words.push(sideG > 0 ? "right" : "left");
  if (Math.abs(foreG) > 0.25) words.push(foreG > 0 ? "rear" : "front");
  return words.length === 0 ? "level" : words.join(" and ");
}

interface Driven {
  time_s: readonly number[];
  distance_m: readonly number[];
}

/**
 * For each sample of another lap the time at which the first lap is at the same share of its
 * length: so that corners lie over corners whatever the pace.
 */
export function alignedTimes(lap: Driven, other: Driven): number[] {
  const length = lap.distance_m.at(-1) ?? 0;
  const otherLength = other.distance_m.at(-1) ?? 0;
  let at = 0;
  return other.distance_m.map((distance) => {
    const wanted = otherLength > 0 ? (distance / otherLength) * length : 0;
    while (at < lap.distance_m.length - 2 && (lap.distance_m[at + 1] ?? 0) < wanted) at += 1;
    const [from, to] = [lap.distance_m[at] ?? 0, lap.distance_m[at + 1] ?? 0];
    const [start, end] = [lap.time_s[at] ?? 0, lap.time_s[at + 1] ?? 0];
    const part = to > from ? Math.min(1, Math.max(0, (wanted - from) / (to - from))) : 0;
    return start + part * (end - start);
  });
}

/** Round values from 0 up to an end, about `wanted` of them, in steps of 1, 2 or 5 times a ten. */
export function niceTicks(end: number, wanted: number): number[] {
  if (!(end > 0)) return [0];
  const rough = end / wanted;
  const ten = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5].find((times) => times * ten >= rough) ?? 10) * ten;
  const count = Math.floor(end / step + 1e-9);
  return Array.from({ length: count + 1 }, (_, k) => Number((k * step).toPrecision(6)));
}
