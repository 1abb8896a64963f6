import { FULL, type OilFrames } from "../api/frames";
import type { Cut } from "./solid";

/** Triangles of the oil's skin [mm], each corner with a shade from 0 to 1. */
export interface OilSkin {
  /** Its free surface. */
  surface: { positions: Float32Array; shades: Float32Array };
  /** Where it lies against walls, or is cut. */
  body: { positions: Float32Array; shades: Float32Array };
}

const HALF = FULL / 2;
const OUTSIDE = -1;
const LIGHT = [0.31, 0.21, 0.93] as const;

/** The grid of a record with a rim of cells outside round it. */
interface Rimmed {
  size: readonly [number, number, number];
  strides: readonly [number, number, number];
  /** Where each cell of the record lies in it. */
  places: Int32Array;
  /** Middles of the cells along each axis; those of the rim are on the outermost faces. */
  middles: readonly [Float64Array, Float64Array, Float64Array];
}

const rims = new WeakMap<OilFrames, Rimmed>();

function rimmed(frames: OilFrames): Rimmed {
  const known = rims.get(frames);
  if (known) return known;
  const [nx, ny, nz] = frames.faces.map((line) => line.length - 1) as [number, number, number];
  const size = [nx + 2, ny + 2, nz + 2] as const;
  const strides = [size[1] * size[2], size[2], 1] as const;
  const places = frames.cells.map(
    (cell) =>
      (Math.floor(cell / (ny * nz)) + 1) * strides[0] +
      ((Math.floor(cell / nz) % ny) + 1) * strides[1] +
      ((cell % nz) + 1),
  );
  const middles = frames.faces.map((line) =>
    Float64Array.from({ length: line.length + 1 }, (_, n) => {
      const [before, after] = [line[Math.max(0, n - 1)], line[Math.min(line.length - 1, n)]];
      return 0.5 * ((before ?? 0) + (after ?? 0));
    }),
  ) as unknown as Rimmed["middles"];
  const made = { size, strides, places, middles };
  rims.set(frames, made);
  return made;
}

/** Four-cornered pieces as triangles, each shaded by the way it faces. */
class Triangles {
  private readonly positions: Float32Array;
  private readonly shades: Float32Array;
  private count = 0;

  constructor(pieces: number) {
    this.positions = new Float32Array(18 * pieces);
    this.shades = new Float32Array(18 * pieces);
  }

  /** A piece by the places of its corners in a list of points. */
  add(points: Float32Array, a: number, b: number, c: number, d: number): void {
    const at = (corner: number, k: number): number => points[3 * corner + k] ?? 0;
    const [u0, u1, u2] = [at(c, 0) - at(a, 0), at(c, 1) - at(a, 1), at(c, 2) - at(a, 2)];
    const [v0, v1, v2] = [at(d, 0) - at(b, 0), at(d, 1) - at(b, 1), at(d, 2) - at(b, 2)];
    const [n0, n1, n2] = [u1 * v2 - u2 * v1, u2 * v0 - u0 * v2, u0 * v1 - u1 * v0];
    const size = Math.sqrt(n0 * n0 + n1 * n1 + n2 * n2) || 1;
    const facing = Math.abs(n0 * LIGHT[0] + n1 * LIGHT[1] + n2 * LIGHT[2]) / size;
    const first = 18 * this.count;
    this.shades.fill(0.74 + 0.26 * facing, first, first + 18);
    const corners = [a, b, c, a, c, d];
    for (let n = 0; n < 6; n += 1)
      for (let k = 0; k < 3; k += 1) this.positions[first + 3 * n + k] = at(corners[n] ?? 0, k);
    this.count += 1;
  }

  done(): { positions: Float32Array; shades: Float32Array } {
    return { positions: this.positions, shades: this.shades };
  }
}

/** Which cells are left away along an axis: those whose middle is beyond the cut. */
function beyond(cut: Cut | null, axis: number, middles: Float64Array): Uint8Array {
  const way = cut?.normal[axis] ?? 0;
  return Uint8Array.from(middles, (at) => (way !== 0 && way * at > (cut?.level ?? 0) ? 1 : 0));
}

/** How full each cell is, rim and what is cut off being outside. */
function valuesOf(frames: OilFrames, index: number, off: readonly Uint8Array[]): Int16Array {
  const { size, strides, places } = rimmed(frames);
  const values = new Int16Array(size[0] * size[1] * size[2]).fill(OUTSIDE);
  const filling = frames.filling(index);
  for (let at = 0; at < places.length; at += 1) values[places[at] ?? 0] = filling[at] ?? 0;
  for (let axis = 0; axis < 3; axis += 1) {
    const away = off[axis];
    if (!away?.includes(1)) continue;
    for (let at = 0; at < values.length; at += 1) {
      const n = Math.floor(at / (strides[axis] ?? 1)) % (size[axis] ?? 1);
      if (away[n]) values[at] = OUTSIDE;
    }
  }
  return values;
}

/** Each block's corner is the mean of where the skin crosses it, and not below the floor. */
function settle(
  points: Float32Array,
  counts: Uint8Array,
  floorAt: (x: number, y: number) => number,
): void {
  for (let block = 0; block < counts.length; block += 1) {
    const count = counts[block] ?? 0;
    if (count === 0) continue;
    const at = 3 * block;
    for (let b = 0; b < 3; b += 1) points[at + b] = (points[at + b] ?? 0) / count;
    const floor = floorAt(points[at] ?? 0, points[at + 1] ?? 0);
    if ((points[at + 2] ?? 0) < floor) points[at + 2] = floor;
  }
}

/**
 * The skin of the oil in one frame, by surface nets: each block of eight cell middles that the skin
 * passes has one corner, the mean of where it crosses the block's edges. Against a wall it crosses at
 * the wall, at a cut on the cut, inside where the filling falls through one half. Nothing goes below
 * the floor: cells that a ramp cuts are whole cells on record.
 */
export function oilSkin(
  frames: OilFrames,
  index: number,
  cut: Cut | null,
  floorAt: (x: number, y: number) => number = () => -Infinity,
): OilSkin {
  const { size, strides, middles } = rimmed(frames);
  const off = middles.map((line, axis) => beyond(cut, axis, line));
  const values = valuesOf(frames, index, off);
  const points = new Float32Array(3 * values.length);
  const counts = new Uint8Array(values.length);
  // edges that the skin crosses: the cell below, twice, odd where it crosses at a wall or cut
  const crossed: number[][] = [[], [], []];
  let walls = 0;
  const where: [number, number, number] = [0, 0, 0];
  for (let axis = 0; axis < 3; axis += 1) {
    const stride = strides[axis] ?? 1;
    const last = (size[axis] ?? 1) - 1;
    const [s, t] = [strides[(axis + 1) % 3] ?? 1, strides[(axis + 2) % 3] ?? 1];
    for (let at = 0; at + stride < values.length; at += 1) {
      const [one, other] = [values[at] ?? OUTSIDE, values[at + stride] ?? OUTSIDE];
      if (one >= HALF === other >= HALF) continue;
      const i = Math.floor(at / strides[0]);
      const j = Math.floor(at / strides[1]) % size[1];
      const k = at % size[2];
      const n = axis === 0 ? i : axis === 1 ? j : k;
      if (n >= last) continue;
      where[0] = middles[0][i] ?? 0;
      where[1] = middles[1][j] ?? 0;
      where[2] = middles[2][k] ?? 0;
      const isWall = one === OUTSIDE || other === OUTSIDE;
      if (off[axis]?.[n] !== off[axis]?.[n + 1])
        where[axis] = (cut?.level ?? 0) * (cut?.normal[axis] ?? 1);
      else if (isWall) where[axis] = frames.faces[axis]?.[n] ?? 0;
      else {
        const [from, to] = [middles[axis]?.[n] ?? 0, middles[axis]?.[n + 1] ?? 0];
        where[axis] = from + ((one - HALF) / (one - other)) * (to - from);
      }
      crossed[axis]?.push(2 * at + (isWall ? 1 : 0));
      walls += isWall ? 1 : 0;
      for (const block of [at, at - s, at - s - t, at - t]) {
        counts[block] = (counts[block] ?? 0) + 1;
        for (let b = 0; b < 3; b += 1)
          points[3 * block + b] = (points[3 * block + b] ?? 0) + (where[b] ?? 0);
      }
    }
  }
  settle(points, counts, floorAt);
  const all = crossed.reduce((sum, list) => sum + list.length, 0);
  const surface = new Triangles(all - walls);
  const body = new Triangles(walls);
  crossed.forEach((list, axis) => {
    const [s, t] = [strides[(axis + 1) % 3] ?? 1, strides[(axis + 2) % 3] ?? 1];
    for (const edge of list) {
      const at = edge >> 1;
      (edge & 1 ? body : surface).add(points, at, at - s, at - s - t, at - t);
    }
  });
  return { surface: surface.done(), body: body.done() };
}
