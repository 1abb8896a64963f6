/**
 * Plane geometry for drawing what the core computed: where the oil lies is its normal and level;
 * here polygons are only cut along that line.
 */
export type Point = readonly [number, number];
export type Ring = readonly Point[];

/** A half plane: the points with `a u + b v <= c`. */
export interface HalfPlane {
  a: number;
  b: number;
  c: number;
}

const excess = (half: HalfPlane, [u, v]: Point): number => half.a * u + half.b * v - half.c;

function crossing(half: HalfPlane, from: Point, to: Point): Point {
  const before = excess(half, from);
  const after = excess(half, to);
  const part = before / (before - after);
  return [from[0] + part * (to[0] - from[0]), from[1] + part * (to[1] - from[1])];
}

/** The part of a ring inside a half plane. Its fill is right; bridges may lie along the cut. */
export function clipRing(ring: Ring, half: HalfPlane): Point[] {
  const kept: Point[] = [];
  ring.forEach((point, index) => {
    const next = ring[(index + 1) % ring.length] ?? point;
    const inside = excess(half, point) <= 0;
    if (inside) kept.push(point);
    if (inside !== excess(half, next) <= 0) kept.push(crossing(half, point, next));
  });
  return kept;
}

/** The stretches of a half plane's edge that run inside a ring: the oil's surface in a section. */
export function edgeInside(ring: Ring, half: HalfPlane): [Point, Point][] {
  const hits: Point[] = [];
  ring.forEach((point, index) => {
    const next = ring[(index + 1) % ring.length] ?? point;
    if (excess(half, point) <= 0 !== excess(half, next) <= 0)
      hits.push(crossing(half, point, next));
  });
  const along = ([u, v]: Point): number => -half.b * u + half.a * v;
  hits.sort((one, other) => along(one) - along(other));
  const stretches: [Point, Point][] = [];
  for (let i = 0; i + 1 < hits.length; i += 2) {
    const from = hits[i];
    const to = hits[i + 1];
    if (from && to) stretches.push([from, to]);
  }
  return stretches;
}

/** Whether a place lies within a ring, or no farther from its edge than `rim`. */
export function isWithin(ring: Ring, u: number, v: number, rim: number): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i, i += 1) {
    const [a, b] = ring[i] ?? [0, 0];
    const [c, d] = ring[j] ?? [0, 0];
    const [du, dv] = [c - a, d - b];
    const along = ((u - a) * du + (v - b) * dv) / (du * du + dv * dv || 1);
    const t = Math.min(1, Math.max(0, along));
    if (Math.hypot(u - a - t * du, v - b - t * dv) <= rim) return true;
    if (b > v !== d > v && u < a + ((v - b) / dv) * du) inside = !inside;
  }
  return inside;
}

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export function boxOf(points: readonly Point[]): Box {
  const us = points.map((point) => point[0]);
  const vs = points.map((point) => point[1]);
  return {
    left: Math.min(...us),
    right: Math.max(...us),
    top: Math.min(...vs),
    bottom: Math.max(...vs),
  };
}

/** Turn a point clockwise as seen on the page (v downward). */
export function turned([u, v]: Point, degrees: number): Point {
  const angle = (degrees * Math.PI) / 180;
  return [u * Math.cos(angle) - v * Math.sin(angle), u * Math.sin(angle) + v * Math.cos(angle)];
}

export const pathOf = (points: readonly Point[], closed = true): string =>
  points.length === 0
    ? ""
    : `M${points.map(([u, v]) => `${u.toFixed(2)} ${v.toFixed(2)}`).join("L")}${closed ? "Z" : ""}`;

/** A circle as a ring of 48 points. */
export const circleRing = ([u, v]: Point, radius: number): Point[] =>
  Array.from({ length: 48 }, (_, k): Point => {
    const angle = (k * Math.PI) / 24;
    return [u + radius * Math.cos(angle), v + radius * Math.sin(angle)];
  });
