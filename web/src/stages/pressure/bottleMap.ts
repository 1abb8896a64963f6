import { contours } from "d3-contour";
import type { BottleMap } from "../../api/pressure";
import type { Point } from "../../drawing/geometry";
import { niceTicks } from "../../plots/traces";

/** A plot's room [px] and what its axes reach to. */
export interface Axes {
  left: number;
  right: number;
  top: number;
  bottom: number;
  mostBar: number;
  mostL: number;
}

export const xOf = ({ left, right, mostBar }: Axes, bar: number): number =>
  left + (bar / mostBar) * (right - left);
export const yOf = ({ top, bottom, mostL }: Axes, litres: number): number =>
  bottom - (litres / mostL) * (bottom - top);

/** The bottle at a place of the plot, to a tenth of a bar and of a litre, within the map. */
export function bottleAt(axes: Axes, x: number, y: number): { bar: number; litres: number } {
  const { left, right, top, bottom, mostBar, mostL } = axes;
  const bar = ((x - left) / (right - left)) * mostBar;
  const litres = ((bottom - y) / (bottom - top)) * mostL;
  const kept = (value: number, least: number, most: number): number =>
    Math.min(most, Math.max(least, Math.round(value * 10) / 10));
  return { bar: kept(bar, 0.2, mostBar), litres: kept(litres, 0.5, mostL) };
}

/** A contour: the areas at or above a value, as rings of places [px]. */
export interface Contour {
  value: number;
  rings: (readonly [number, number])[][];
}

/** Contours of a map's rows (a size each) at some values. */
export function contoursOf(
  map: BottleMap,
  rows: readonly (readonly number[])[],
  values: readonly number[],
  axes: Axes,
): Contour[] {
  const { volumes_l: sizes, precharges_bar: charges } = map;
  const [nx, ny] = [charges.length, sizes.length];
  const between = (list: readonly number[], at: number): number => {
    // the middle of the first cell is at half a cell
    const place = Math.min(list.length - 1, Math.max(0, at - 0.5));
    const low = Math.min(list.length - 2, Math.floor(place));
    const [from, to] = [list[low] ?? 0, list[low + 1] ?? 0];
    return from + (place - low) * (to - from);
  };
  const found = contours()
    .size([nx, ny])
    .thresholds([...values])(rows.flat());
  return found.map(({ value, coordinates }) => ({
    value,
    rings: coordinates.flatMap((polygon) =>
      polygon.map((ring) =>
        ring.map(
          ([u, v]) =>
            [xOf(axes, between(charges, u ?? 0)), yOf(axes, between(sizes, v ?? 0))] as const,
        ),
      ),
    ),
  }));
}

/** The part of a contour that lies within the map: its rings run along the map's own edge too. */
export function withinMap(
  ring: readonly (readonly [number, number])[],
  map: BottleMap,
  axes: Axes,
): (readonly [number, number])[][] {
  const edges = {
    left: xOf(axes, map.precharges_bar[0] ?? 0) + 0.5,
    right: xOf(axes, map.precharges_bar.at(-1) ?? 0) - 0.5,
    top: yOf(axes, map.volumes_l.at(-1) ?? 0) + 0.5,
    bottom: yOf(axes, map.volumes_l[0] ?? 0) - 0.5,
  };
  const inside = ([x, y]: readonly [number, number]): boolean =>
    x > edges.left && x < edges.right && y > edges.top && y < edges.bottom;
  const pieces: (readonly [number, number])[][] = [];
  let piece: (readonly [number, number])[] = [];
  ring.forEach((point) => {
    if (inside(point)) piece.push(point);
    else {
      if (piece.length > 1) pieces.push(piece);
      piece = [];
    }
  });
  if (piece.length > 1) pieces.push(piece);
  return pieces;
}

/** Pressures worth a line: round, between the map's least and most, four to eight of them. */
export function levelsOf(map: BottleMap): number[] {
  const all = map.lowest_bar.flat();
  const [least, most] = [Math.min(...all), Math.max(...all)];
  if (most - least < 0.05) return [];
  const step = [0.1, 0.2, 0.25, 0.5, 1].find((each) => (most - least) / each <= 7) ?? 1;
  return niceTicks(most, most / step).filter((value) => value > least);
}

/** The pre-charge at which the lowest pressure of a size is greatest, as mapped. */
export function bestCharge(map: BottleMap, litres: number): number | null {
  const sizes = map.volumes_l;
  const row = sizes.reduce(
    (near, size, index) =>
      Math.abs(size - litres) < Math.abs((sizes[near] ?? 0) - litres) ? index : near,
    0,
  );
  const values = map.lowest_bar[row] ?? [];
  const under = map.under_s[row] ?? [];
  const best = values.reduce(
    (near, value, index) =>
      (under[index] ?? 0) < (under[near] ?? 0) - 0.005 ||
      (Math.abs((under[index] ?? 0) - (under[near] ?? 0)) <= 0.005 && value > (values[near] ?? 0))
        ? index
        : near,
    0,
  );
  return map.precharges_bar[best] ?? null;
}

/** A word's place, or one under the mark of the bottle that is tried where that would cover it. */
export const clearOf = ([x, y]: Point, [markX, markY]: Point): Point =>
  Math.abs(x - markX) < MARK_WIDE && Math.abs(y - markY) < MARK_HIGH ? [x, markY + 28] : [x, y];
/** How near a short word's middle and the mark's may be [px]: across, and up. */
const MARK_WIDE = 32;
const MARK_HIGH = 20;
