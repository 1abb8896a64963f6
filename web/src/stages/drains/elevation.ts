import type { Drain } from "../../api/drains";
import { boxOf, turned, type Point } from "../../drawing/geometry";
import type { Drawing } from "../../drawing/views";

type Space = readonly [number, number, number];

/** What stands in a drain at a moment, or under the load of the pad. */
export interface Now {
  up: Space;
  levelMm: number;
  thereMm: number;
  neededMm: number;
  pushMm: number;
  /** How deep the entry is under oil; negative above it. */
  underMm: number;
  sealed: boolean;
  /** Share of the bore that is wet at each point of the way. */
  fill: readonly number[];
  /** Oil in the housing [ml]; null under a load of the pad. */
  heldMl: number | null;
}

/** Head to spare: negative, what is short. */
export const spare = ({ thereMm, neededMm }: Now): number => thereMm - neededMm;

/** From the engine's frame to the page [mm], v downward, in the view that the drain is seen in. */
export function seenFrom(drawing: Drawing, view: Drain["view"], [x, y, z]: Space): Point {
  return view === "side"
    ? turned([-x, -z], drawing.nose_up_deg)
    : turned([-y, -z], drawing.lean_right_deg);
}

/** "Up" under the load as a way on the page, of length one. */
export function upOnPage(drawing: Drawing, view: Drain["view"], up: Space): Point {
  const [u, v] = seenFrom(drawing, view, up);
  const length = Math.hypot(u, v) || 1;
  return [u / length, v / length];
}

/** The drain's coordinate across the view [mm]. */
export const depthOf = (view: Drain["view"], place: Space): number =>
  view === "side" ? place[1] : place[0];

/** A piece of a drain on the page [mm]: its two sides, how much is wet, and whether it rises. */
export interface Cell {
  outline: readonly [Point, Point, Point, Point];
  oil: readonly [Point, Point, Point, Point] | null;
  rises: boolean;
  full: boolean;
  middle: Point;
  way: Point;
}

/** The pieces of a drain as they lie on the page, oil on the side that the load throws it to. */
export function cellsOf(drawing: Drawing, drain: Drain, now: Now): Cell[] {
  const { view, points_mm: points, bores_mm: bores } = drain;
  const up = upOnPage(drawing, view, now.up);
  return points.slice(0, -1).map((from, at): Cell => {
    const to = points[at + 1] ?? from;
    const [a, b] = [seenFrom(drawing, view, from), seenFrom(drawing, view, to)];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const way: Point = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const left: Point = [way[1], -way[0]];
    // the lower side is the one away from "up"
    const low = left[0] * up[0] + left[1] * up[1] > 0 ? -1 : 1;
    const half = (bores[at] ?? 10) / 2;
    const off = (place: Point, by: number): Point => [
      place[0] + left[0] * by,
      place[1] + left[1] * by,
    ];
    const [first, last] = [now.fill[at] ?? 0, now.fill[at + 1] ?? now.fill[at] ?? 0];
    const surface = (share: number): number => low * half * (1 - 2 * share);
    const rise =
      (to[0] - from[0]) * now.up[0] + (to[1] - from[1]) * now.up[1] + (to[2] - from[2]) * now.up[2];
    return {
      outline: [off(a, half), off(b, half), off(b, -half), off(a, -half)],
      oil:
        Math.max(first, last) < 0.01
          ? null
          : [
              off(a, low * half),
              off(b, low * half),
              off(b, surface(Math.max(last, 0.04))),
              off(a, surface(Math.max(first, 0.04))),
            ],
      rises: rise > 0.5,
      full: first >= 1 && last >= 1,
      middle: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2],
      way,
    };
  });
}

/** The stretch that rises under the load: its length [mm] and its ends; null where none does. */
export function risingStretch(
  drain: Drain,
  cells: readonly Cell[],
): { lengthMm: number; from: Point; to: Point } | null {
  const rising = cells.flatMap((cell, at) => (cell.rises ? [{ cell, at }] : []));
  const first = rising[0];
  const last = rising.at(-1);
  if (!first || !last) return null;
  const lengthMm = rising.reduce((sum, { at }) => sum + (drain.lengths_mm[at] ?? 0), 0);
  return { lengthMm, from: first.cell.middle, to: last.cell.middle };
}

export interface Placing {
  scale: number;
  /** From the page's millimetres to its pixels. */
  place: (point: Point) => Point;
}

const ABOVE_SEAL = 42; // [mm] of housing over the seals
const ASIDE = 34; // [mm] of it to each side

/** How a drain and the pan under it are put on a sheet. */
export function placeOn(
  drawing: Drawing,
  drain: Drain,
  width: number,
  height: number,
  margins: { left: number; right: number; top: number; bottom: number },
): Placing {
  const { view, section } = drain;
  const at = depthOf(view, drain.points_mm.at(-1) ?? [0, 0, 0]);
  const inSpace = ([u, v]: Point): Space => (view === "side" ? [u, at, v] : [at, u, v]);
  const pan = [...section.inside_mm, ...section.skirt_mm]
    .flat()
    .map((p) => seenFrom(drawing, view, inSpace(p)));
  const seal = seenFrom(drawing, view, drain.seal_mm);
  const box = boxOf([
    ...pan,
    ...drain.points_mm.map((p) => seenFrom(drawing, view, p)),
    [seal[0] - ASIDE, seal[1] - ABOVE_SEAL],
    [seal[0] + ASIDE, seal[1]],
  ]);
  const room = {
    across: Math.max(80, width - margins.left - margins.right),
    down: Math.max(80, height - margins.top - margins.bottom),
  };
  const scale = Math.min(
    room.across / Math.max(1, box.right - box.left),
    room.down / Math.max(1, box.bottom - box.top),
  );
  const x = margins.left + (room.across - (box.right - box.left) * scale) / 2 - box.left * scale;
  const y = margins.top + (room.down - (box.bottom - box.top) * scale) / 2 - box.top * scale;
  return { scale, place: ([u, v]) => [x + u * scale, y + v * scale] };
}

/** What the page's left is called in a view; of an engine across its car the crank's nose is not the car's. */
export const NOSES: Record<Drawing["nose_points"], Record<Drain["view"], string | null>> = {
  front: { side: "nose", front: null },
  rear: { side: "crank's nose", front: null },
  left: { side: "crank's nose", front: "rear of the car" },
  right: { side: "crank's nose", front: "nose" },
};
