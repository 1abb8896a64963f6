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

/** One frame on a grid with a rim of cells outside; those beyond the cut count as outside too. */
function fieldOf(
  frames: OilFrames,
  index: number,
  cut: Cut | null,
): { values: Int16Array; middles: number[][]; cutOff: boolean[][] } {
  const [nx, ny, nz] = frames.faces.map((line) => line.length - 1) as [number, number, number];
  const values = new Int16Array((nx + 2) * (ny + 2) * (nz + 2)).fill(OUTSIDE);
  const middles = frames.faces.map((line) => {
    const inner = Array.from(
      { length: line.length - 1 },
      (_, i) => 0.5 * ((line[i] ?? 0) + (line[i + 1] ?? 0)),
    );
    return [line[0] ?? 0, ...inner, line[line.length - 1] ?? 0];
  });
  const row = index * frames.cells.length;
  // a cut is square to one axis: rows of cells whose middle is beyond it are left away
  const cutOff = middles.map((line, axis) =>
    line.map(
      (at) => (cut?.normal[axis] ?? 0) !== 0 && (cut?.normal[axis] ?? 0) * at > (cut?.level ?? 0),
    ),
  );
  frames.cells.forEach((cell, at) => {
    const i = Math.floor(cell / (ny * nz)) + 1;
    const j = (Math.floor(cell / nz) % ny) + 1;
    const k = (cell % nz) + 1;
    if (cutOff[0]?.[i] || cutOff[1]?.[j] || cutOff[2]?.[k]) return;
    values[(i * (ny + 2) + j) * (nz + 2) + k] = frames.filling[row + at] ?? 0;
  });
  return { values, middles, cutOff };
}

class Triangles {
  private readonly points: number[] = [];
  private readonly shades: number[] = [];

  /** A four-cornered piece, shaded by the way it faces. */
  add(corners: readonly (readonly [number, number, number])[]): void {
    const [a, b, c, d] = corners;
    if (!a || !b || !c || !d) return;
    const u = [c[0] - a[0], c[1] - a[1], c[2] - a[2]] as const;
    const v = [d[0] - b[0], d[1] - b[1], d[2] - b[2]] as const;
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...n) || 1;
    const facing = Math.abs(n.reduce((sum, part, k) => sum + part * (LIGHT[k] ?? 0), 0)) / size;
    const shade = 0.74 + 0.26 * facing;
    for (const corner of [a, b, c, a, c, d]) {
      this.points.push(...corner);
      this.shades.push(shade, shade, shade);
    }
  }

  done(): { positions: Float32Array; shades: Float32Array } {
    return { positions: new Float32Array(this.points), shades: new Float32Array(this.shades) };
  }
}

/**
 * The skin of the oil in one frame, by surface nets: each block of eight cell middles that the skin
 * passes has one corner, the mean of where it crosses the block's edges. Against a wall it crosses at
 * the wall, at a cut on the cut, inside where the filling falls through one half.
 */
export function oilSkin(frames: OilFrames, index: number, cut: Cut | null): OilSkin {
  const { values, middles, cutOff } = fieldOf(frames, index, cut);
  const size = frames.faces.map((line) => line.length + 1) as [number, number, number];
  const strides = [size[1] * size[2], size[2], 1] as const;
  const sums = new Float32Array(values.length * 3);
  const counts = new Uint8Array(values.length);
  const edges: { axis: number; at: number; wall: boolean }[] = [];
  const value = (at: number): number => values[at] ?? OUTSIDE;
  for (let i = 0; i < size[0]; i += 1)
    for (let j = 0; j < size[1]; j += 1)
      for (let k = 0; k < size[2]; k += 1) {
        const at = i * strides[0] + j * strides[1] + k;
        const place = [i, j, k];
        for (let axis = 0; axis < 3; axis += 1) {
          if ((place[axis] ?? 0) + 1 >= (size[axis] ?? 0)) continue;
          const [one, other] = [value(at), value(at + (strides[axis] ?? 0))];
          if (one >= HALF === other >= HALF) continue;
          const wall = one === OUTSIDE || other === OUTSIDE;
          const isCut = cutOff[axis]?.[place[axis] ?? 0] !== cutOff[axis]?.[(place[axis] ?? 0) + 1];
          const point = place.map((n, b) => middles[b]?.[n] ?? 0);
          const n = place[axis] ?? 0;
          const [from, to] = [middles[axis]?.[n] ?? 0, middles[axis]?.[n + 1] ?? 0];
          point[axis] = isCut
            ? (cut?.level ?? 0) * (cut?.normal[axis] ?? 1)
            : wall
              ? (frames.faces[axis]?.[n] ?? 0)
              : from + ((one - HALF) / (one - other)) * (to - from);
          edges.push({ axis, at, wall });
          for (const block of blocksRound(at, axis, strides)) {
            counts[block] = (counts[block] ?? 0) + 1;
            for (let b = 0; b < 3; b += 1)
              sums[3 * block + b] = (sums[3 * block + b] ?? 0) + (point[b] ?? 0);
          }
        }
      }
  const corner = (block: number): [number, number, number] => {
    const count = counts[block] ?? 1;
    return [
      (sums[3 * block] ?? 0) / count,
      (sums[3 * block + 1] ?? 0) / count,
      (sums[3 * block + 2] ?? 0) / count,
    ];
  };
  const surface = new Triangles();
  const body = new Triangles();
  for (const { axis, at, wall } of edges)
    (wall ? body : surface).add(blocksRound(at, axis, strides).map(corner));
  return { surface: surface.done(), body: body.done() };
}

/** The four blocks round an edge, in order; a block is named by its lowest cell. */
function blocksRound(at: number, axis: number, strides: readonly number[]): number[] {
  const [s, t] = [0, 1, 2].filter((b) => b !== axis).map((b) => strides[b] ?? 0) as [
    number,
    number,
  ];
  return [at, at - s, at - s - t, at - t];
}
