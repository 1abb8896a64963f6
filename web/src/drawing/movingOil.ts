import { contours } from "d3-contour";
import { FULL, type OilFrames } from "../api/frames";
import { pathOf, type Point } from "./geometry";

/** The moving oil on record and which frame of it, with the share of each gate that stands open. */
export interface MovingFrame {
  frames: OilFrames;
  index: number;
  /** By plate and gate, as `gateKey` says. */
  gatesOpen: Readonly<Record<string, number>>;
}

/** A gate's name as the runs have it. */
export const gateKey = (plate: string, gate: string): string => `${plate}, ${gate}`;

/** How far a leaf swings when all of its opening is open. Ours: leaves have no stop on record. */
const WIDEST = (60 * Math.PI) / 180;

/** How far a gate's leaf stands off its plate [rad]; `shown` where there is no moving oil. */
export function swingOf(moving: MovingFrame | null, key: string, shown: number): number {
  return moving ? (moving.gatesOpen[key] ?? 0) * WIDEST : shown;
}

/** Cells beyond the walls are filled as those beside them, so far out: the outline cuts them off. */
const RIM = 2;

const places = new WeakMap<OilFrames, Int32Array>();

/** For each cell of the grid its place in the record, or -1. */
function placesOf(frames: OilFrames): Int32Array {
  const known = places.get(frames);
  if (known) return known;
  const made = new Int32Array(
    frames.faces.reduce((count, line) => count * (line.length - 1), 1),
  ).fill(-1);
  frames.cells.forEach((cell, place) => {
    made[cell] = place;
  });
  places.set(frames, made);
  return made;
}

/** The cell of an axis in which a place lies; the nearest when it lies beyond them. */
function cellAt(line: Float64Array, at: number): number {
  const found = line.findIndex((face, n) => n > 0 && at < face);
  return (found < 0 ? line.length - 1 : found) - 1;
}

/** Middles of the cells, and of as many beyond each end as the rim has. */
function middlesOf(line: Float64Array): number[] {
  const middles = Array.from(
    { length: line.length - 1 },
    (_, n) => 0.5 * ((line[n] ?? 0) + (line[n + 1] ?? 0)),
  );
  const [first, last] = [line[0] ?? 0, line[line.length - 1] ?? 0];
  const before = (line[1] ?? 0) - first;
  const after = last - (line[line.length - 2] ?? 0);
  const out = Array.from({ length: RIM }, (_, n) => n);
  return [
    ...out.map((n) => first - (RIM - n - 0.5) * before),
    ...middles,
    ...out.map((n) => last + (n + 0.5) * after),
  ];
}

/** Unknown values become the mean of their known neighbours, ring by ring. */
function spread(values: Float64Array, width: number): void {
  for (let ring = 0; ring < RIM + 1; ring += 1) {
    const before = values.slice();
    for (let at = 0; at < values.length; at += 1) {
      if (!Number.isNaN(before[at])) continue;
      const u = at % width;
      const beside = [
        u > 0 ? before[at - 1] : NaN,
        u < width - 1 ? before[at + 1] : NaN,
        before[at - width],
        before[at + width],
      ].filter((value): value is number => value !== undefined && !Number.isNaN(value));
      if (beside.length > 0)
        values[at] = beside.reduce((sum, value) => sum + value, 0) / beside.length;
    }
  }
}

/** Rings round what is at least half full, from values on a grid, NaN where none is known. */
function ringsOf(values: Float64Array, us: readonly number[], vs: readonly number[]): Point[][] {
  spread(values, us.length);
  const found = contours()
    .size([us.length, vs.length])
    .contour(
      [...values].map((value) => (Number.isNaN(value) ? 0 : value)),
      FULL / 2,
    );
  const onAxis = (middles: readonly number[], at: number): number => {
    const cell = Math.min(middles.length - 2, Math.max(0, Math.floor(at - 0.5)));
    const [from, to] = [middles[cell] ?? 0, middles[cell + 1] ?? 0];
    return from + (at - 0.5 - cell) * (to - from);
  };
  return found.coordinates
    .flat()
    .map((ring) => ring.map(([u, v]): Point => [onAxis(us, u ?? 0), onAxis(vs, v ?? 0)]));
}

/** The filling read over a plane of two axes, on the grid with its rim. */
function plane(
  frames: OilFrames,
  [across, along]: readonly [number, number],
  valueAt: (u: number, v: number) => number,
): Point[][] {
  const us = middlesOf(frames.faces[across] ?? new Float64Array(2));
  const vs = middlesOf(frames.faces[along] ?? new Float64Array(2));
  const values = new Float64Array(us.length * vs.length).fill(NaN);
  for (let v = RIM; v < vs.length - RIM; v += 1)
    for (let u = RIM; u < us.length - RIM; u += 1)
      values[v * us.length + u] = valueAt(u - RIM, v - RIM);
  return ringsOf(values, us, vs);
}

/**
 * The moving oil in an upright section: rings of place along the cut and height [mm], to be filled
 * by the even-odd rule and cut off at the section's outline.
 */
export function oilInSection(
  { frames, index }: MovingFrame,
  view: "side" | "front",
  at: number,
): Point[][] {
  const place = placesOf(frames);
  const [, ny, nz] = frames.faces.map((line) => line.length - 1) as [number, number, number];
  const cut = cellAt(frames.faces[view === "side" ? 1 : 0], at);
  const filling = frames.filling(index);
  return plane(frames, [view === "side" ? 0 : 1, 2], (u, k) => {
    const [i, j] = view === "side" ? [u, cut] : [cut, u];
    const found = place[(i * ny + j) * nz + k] ?? -1;
    return found < 0 ? NaN : (filling[found] ?? 0);
  });
}

/** Where the floor is under moving oil, as rings in plan [mm]; to be cut off at the outline. */
export function oilOnFloor({ frames, index }: MovingFrame): Point[][] {
  const place = placesOf(frames);
  const [, ny, nz] = frames.faces.map((line) => line.length - 1) as [number, number, number];
  const filling = frames.filling(index);
  return plane(frames, [0, 1], (i, j) => {
    for (let k = 0; k < nz; k += 1) {
      const found = place[(i * ny + j) * nz + k] ?? -1;
      if (found >= 0) return filling[found] ?? 0;
    }
    return NaN;
  });
}

/** How much oil lies higher than the oil is said to stand [ml]: a splash of less does not count. */
const SPLASH_ML = 50;

/** How high the moving oil stands [mm, from the rail], splashes left out. */
export function highestOil({ frames, index }: MovingFrame, splashMl = SPLASH_ML): number {
  const [, ny, nz] = frames.faces.map((line) => line.length - 1) as [number, number, number];
  const filling = frames.filling(index);
  const sizes = frames.faces.map((line) =>
    Float64Array.from({ length: line.length - 1 }, (_, n) => (line[n + 1] ?? 0) - (line[n] ?? 0)),
  ) as [Float64Array, Float64Array, Float64Array];
  const layers = new Float64Array(nz);
  frames.cells.forEach((cell, at) => {
    const [i, j, k] = [Math.floor(cell / (ny * nz)), Math.floor(cell / nz) % ny, cell % nz];
    const room = (sizes[0][i] ?? 0) * (sizes[1][j] ?? 0) * (sizes[2][k] ?? 0);
    layers[k] = (layers[k] ?? 0) + (room * (filling[at] ?? 0)) / FULL / 1000;
  });
  let above = 0;
  for (let k = nz - 1; k >= 0; k -= 1) {
    above += layers[k] ?? 0;
    if (above > splashMl) return frames.faces[2][k + 1] ?? 0;
  }
  return -Infinity;
}

/** Rings as one path. */
export const ringsPath = (
  rings: readonly (readonly Point[])[],
  place: (point: Point) => Point,
): string => rings.map((ring) => pathOf(ring.map(place))).join("");
