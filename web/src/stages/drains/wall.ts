import type { Wall } from "../../api/drains";

export type Zone = "under" | "marginal" | "sound" | "none";

/** What a place of the wall is at the lap's worst. */
export const zoneOf = (clear: number | null, wanted: number): Zone =>
  clear === null ? "none" : clear < 0 ? "under" : clear < wanted ? "marginal" : "sound";

export interface Stretch {
  side: Wall["sides"][number];
  fromMm: number;
  toMm: number;
}

/** The wall's sides in the order walked, stretches that face one way joined; the last runs on. */
export function sidesOf(wall: Wall): Stretch[] {
  const half = wall.around_mm / Math.max(1, wall.along_mm.length) / 2;
  const found: Stretch[] = [];
  wall.sides.forEach((side, at) => {
    const here = wall.along_mm[at] ?? 0;
    const last = found.at(-1);
    if (last?.side === side) last.toMm = here + half;
    else found.push({ side, fromMm: here - half, toMm: here + half });
  });
  return found;
}

/** The lowest height at each step that stays clear by so much [mm]: an edge along the wall. */
export function edgeAt(wall: Wall, clearBy: number): (number | null)[] {
  return wall.clear_mm.map((column) => {
    const at = column.findIndex((clear) => clear !== null && clear >= clearBy);
    const here = wall.heights_mm[at];
    if (at < 0 || here === undefined) return null;
    const [clear, below] = [column[at], column[at - 1]];
    if (clear == null || below == null || clear === below) return here;
    // straight between two heights that are told
    const down = wall.heights_mm[at - 1] ?? here;
    return here - ((clear - clearBy) / (clear - below)) * (here - down);
  });
}

/** The place of the wall nearest to one on its picture: round, and over the rail [mm]. */
export function placeAt(
  wall: Wall,
  alongMm: number,
  heightMm: number,
): { index: number; row: number; clear: number | null; blocked: boolean } {
  const nearest = (values: readonly number[], wanted: number): number =>
    values.reduce(
      (best, value, at) =>
        Math.abs(value - wanted) < Math.abs((values[best] ?? 0) - wanted) ? at : best,
      0,
    );
  const index = nearest(wall.along_mm, alongMm);
  const row = nearest(wall.heights_mm, heightMm);
  return {
    index,
    row,
    clear: wall.clear_mm[index]?.[row] ?? null,
    blocked: wall.in_the_way[index]?.[row] === 1,
  };
}

/** What a place of the wall is as an entry: ahead of the rear face, left, depth under the rail. */
export function entryAt(wall: Wall, index: number, heightMm: number): [number, number, number] {
  const [x, y] = wall.places_mm[index] ?? [0, 0];
  return [Math.round(x), Math.round(y), Math.round(-heightMm)];
}
