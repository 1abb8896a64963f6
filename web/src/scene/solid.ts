/** Plane-sided bodies cut by planes, for drawing what the core computed. All in millimetres. */
export type Vector = readonly [number, number, number];
export type Polygon = readonly Vector[];

/** The points with `normal · point <= level` are kept. */
export interface Cut {
  normal: Vector;
  level: number;
}

export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

const excess = (cut: Cut, point: Vector): number => dot(cut.normal, point) - cut.level;

const onPlane = (cut: Cut, from: Vector, to: Vector): Vector => {
  const before = excess(cut, from);
  const part = before / (before - excess(cut, to));
  return [
    from[0] + part * (to[0] - from[0]),
    from[1] + part * (to[1] - from[1]),
    from[2] + part * (to[2] - from[2]),
  ];
};

/** The part of a flat polygon inside a cut. */
export function clipPolygon(polygon: Polygon, cut: Cut): Vector[] {
  const kept: Vector[] = [];
  polygon.forEach((point, index) => {
    const next = polygon[(index + 1) % polygon.length] ?? point;
    const inside = excess(cut, point) <= 0;
    if (inside) kept.push(point);
    if (inside !== excess(cut, next) <= 0) kept.push(onPlane(cut, point, next));
  });
  return kept.length >= 3 ? kept : [];
}

/** Where the cut's plane crosses a flat polygon: pairs of points. */
export function crossings(polygon: Polygon, cut: Cut): [Vector, Vector][] {
  const hits: Vector[] = [];
  polygon.forEach((point, index) => {
    const next = polygon[(index + 1) % polygon.length] ?? point;
    if (excess(cut, point) <= 0 !== excess(cut, next) <= 0) hits.push(onPlane(cut, point, next));
  });
  const [first, second] = hits;
  if (!first || !second) return [];
  const along = minus(second, first);
  hits.sort((one, other) => dot(one, along) - dot(other, along));
  const pairs: [Vector, Vector][] = [];
  for (let i = 0; i + 1 < hits.length; i += 2) {
    const [from, to] = [hits[i], hits[i + 1]];
    if (from && to) pairs.push([from, to]);
  }
  return pairs;
}

const EDGES = [
  [0, 1],
  [0, 2],
  [0, 3],
  [1, 2],
  [1, 3],
  [2, 3],
] as const;

/** Where a plane cuts a tetrahedron: nothing, a triangle or a quadrilateral, in order round it. */
export function sliceTetrahedron(corners: readonly Vector[], cut: Cut): Vector[] {
  const hits: Vector[] = [];
  for (const [i, j] of EDGES) {
    const [one, other] = [corners[i], corners[j]];
    if (one && other && excess(cut, one) <= 0 !== excess(cut, other) <= 0)
      hits.push(onPlane(cut, one, other));
  }
  if (hits.length < 4) return hits.length === 3 ? hits : [];
  const middle = hits.reduce<Vector>(
    (sum, hit) => [sum[0] + hit[0] / 4, sum[1] + hit[1] / 4, sum[2] + hit[2] / 4],
    [0, 0, 0],
  );
  const first = minus(hits[0] ?? middle, middle);
  const second = cross(cut.normal, first);
  const angle = (hit: Vector): number =>
    Math.atan2(dot(minus(hit, middle), second), dot(minus(hit, middle), first));
  return hits.sort((one, other) => angle(one) - angle(other));
}

/** A flat polygon's normal times twice its area (Newell), whatever its shape. */
export function areaNormal(polygon: Polygon): Vector {
  const first = polygon[0];
  if (!first) return [0, 0, 0];
  return polygon.reduce<Vector>(
    (sum, point, index) => {
      const next = polygon[(index + 1) % polygon.length] ?? point;
      const part = cross(minus(point, first), minus(next, first));
      return [sum[0] + part[0], sum[1] + part[1], sum[2] + part[2]];
    },
    [0, 0, 0],
  );
}
