import type { Schemas } from "../api/client";
import type { OilSurface } from "./views";

export type Tilt = Schemas["TiltOut"];
type Grid = readonly (readonly number[])[];

/** The settled oil at a load, read from the core's table. */
export interface TiltedOil {
  oil: OilSurface;
  zonesL: number[];
  toCoverL: number;
}

/** How far the table reaches [g]. */
export const reachOf = (tilt: Tilt): number => tilt.loads_g.at(-1) ?? 0;

/** The interval of a rising list that holds a value, and the part of it passed; held to the ends. */
export function between(values: readonly number[], value: number): { at: number; part: number } {
  let low = 0;
  let high = values.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((values[middle] ?? 0) <= value) low = middle;
    else high = middle;
  }
  const from = values[low] ?? 0;
  const width = (values[high] ?? 0) - from;
  return { at: low, part: width > 0 ? Math.min(1, Math.max(0, (value - from) / width)) : 0 };
}

/**
 * The oil as it lies under a steady load: linear interpolation of the table that the core made, and
 * nothing else. "Up" is the core's three vectors put together; the height it interpolates is along
 * that vector, so the level is the height over its length.
 */
export function oilUnder(tilt: Tilt, sideG: number, foreG: number): TiltedOil {
  const row = between(tilt.loads_g, foreG);
  const column = between(tilt.loads_g, sideG);
  const inside = (grid: Grid): number => {
    const value = (r: number, c: number): number => grid[r]?.[c] ?? 0;
    const across = (r: number): number =>
      value(r, column.at) * (1 - column.part) + value(r, column.at + 1) * column.part;
    return across(row.at) * (1 - row.part) + across(row.at + 1) * row.part;
  };
  const axis = (k: 0 | 1 | 2): number =>
    tilt.at_rest[k] + foreG * tilt.per_fore_g[k] + sideG * tilt.per_side_g[k];
  const up = [axis(0), axis(1), axis(2)] as const;
  const length = Math.hypot(...up);
  return {
    oil: {
      normal: [up[0] / length, up[1] / length, up[2] / length],
      level_mm: inside(tilt.height_mm) / length,
    },
    zonesL: tilt.zones_l.map(inside),
    toCoverL: inside(tilt.to_cover_l),
  };
}
