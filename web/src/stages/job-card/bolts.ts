import type { Flange, Step } from "../../api/job";

export type Place = readonly [number, number];

/** Which bolt of which pass comes next; null: all are tight. */
export function nextBolt(
  flange: Flange,
  tight: Step["tight"],
): { bolt: number; pass: number; number: number } | null {
  for (let pass = 1; pass <= flange.passes; pass += 1)
    for (const [at, bolt] of flange.pattern.entries())
      if (!tight.some(([p, b]) => p === pass && b === bolt)) return { bolt, pass, number: at + 1 };
  return null;
}

/** The bolt that was tightened last, in the order of the pattern; null: none is. */
export function lastBolt(
  flange: Flange,
  tight: Step["tight"],
): { bolt: number; pass: number; number: number } | null {
  for (let pass = flange.passes; pass >= 1; pass -= 1)
    for (let at = flange.pattern.length - 1; at >= 0; at -= 1) {
      const bolt = flange.pattern[at] ?? -1;
      if (tight.some(([p, b]) => p === pass && b === bolt)) return { bolt, pass, number: at + 1 };
    }
  return null;
}

/** An own order with one more bolt at its end, or without it where it was the last. */
export const ordered = (order: readonly number[], bolt: number): number[] =>
  order.at(-1) === bolt ? order.slice(0, -1) : order.includes(bolt) ? [...order] : [...order, bolt];

/** The bolt nearest to where a thumb came down, within a reach; null: it meant none. */
export function nearestBolt(places: readonly Place[], at: Place, reach: number): number | null {
  let nearest: number | null = null;
  let least = reach;
  for (const [bolt, [x, y]] of places.entries()) {
    const away = Math.hypot(x - at[0], y - at[1]);
    if (away <= least) {
      least = away;
      nearest = bolt;
    }
  }
  return nearest;
}

/** Where a place of the flange lies on the page: nose to the left, from below or from above. */
export function pageOf(
  flange: Flange,
  width: number,
  mostHeight: number,
  isFromBelow: boolean,
  margin = 22,
): { place: (point: Place) => Place; height: number; scale: number } {
  const xs = flange.outline_mm.map(([x]) => x);
  const ys = flange.outline_mm.map(([, y]) => y);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (width - 2 * margin) / Math.max(right - left, 1),
    (mostHeight - 2 * margin) / Math.max(high - low, 1),
  );
  const side = (width - scale * (right - left)) / 2;
  return {
    scale,
    height: scale * (high - low) + 2 * margin,
    // the car's left is at the foot of the page from above, and at its head from below
    place: ([x, y]) => [
      side + scale * (right - x),
      margin + scale * (isFromBelow ? high - y : y - low),
    ],
  };
}
