import { describe, expect, it } from "vitest";
import type { Drawing, OilSurface } from "../drawing/views";
import { cutPlane, litresDrawn, piecesOf } from "./model";
import type { Vector } from "./solid";
import { triangles } from "./triangles";

// a box 400 x 240 x 140 mm below the rail, no skirt, as the core describes it
const c: Vector[] = [
  [0, -120, -140],
  [400, -120, -140],
  [400, 120, -140],
  [0, 120, -140],
  [0, -120, 0],
  [400, -120, 0],
  [400, 120, 0],
  [0, 120, 0],
];
const at = (...rows: number[]): [number, number, number][] =>
  rows.map((row) => [...(c[row] ?? [0, 0, 0])]);
const ring = (a: number, b: number): [number, number][] => [
  [a, -140],
  [b, -140],
  [b, 0],
  [a, 0],
];
const section = (at_mm: number, a: number, b: number): Drawing["side"] => ({
  at_mm,
  inside_mm: [ring(a, b)],
  skirt_mm: [],
  metal_mm: [[ring(a - 4, b + 4), ring(a, b)]],
  plates_mm: [],
  gates: [],
});
const drawing: Drawing = {
  zones: [],
  scanned: [],
  faces: [
    { kind: "floor", corners_mm: at(0, 1, 2, 3) },
    { kind: "wall", corners_mm: at(4, 5, 1, 0) },
    { kind: "wall", corners_mm: at(5, 6, 2, 1) },
    { kind: "wall", corners_mm: at(6, 7, 3, 2) },
    { kind: "wall", corners_mm: at(7, 4, 0, 3) },
  ],
  plates: [],
  solid: {
    vertices_mm: at(0, 1, 2, 3, 4, 5, 6, 7),
    tetrahedra: [
      [0, 1, 2, 6],
      [0, 1, 5, 6],
      [0, 4, 5, 6],
      [0, 2, 3, 6],
      [0, 3, 7, 6],
      [0, 7, 4, 6],
    ],
  },
  rail_mm: [
    [0, -120],
    [400, -120],
    [400, 120],
    [0, 120],
  ],
  side: section(0, 0, 400),
  front: section(200, -120, 120),
  mouth: { x_mm: 200, y_mm: 0, z_mm: -132, half_length_mm: 20, half_width_mm: 20, is_round: true },
  skirt_height_mm: 0,
  lean_right_deg: 0,
  nose_up_deg: 0,
  nose_points: "front",
  standing: { normal: [0, 0, 1], level_mm: -88, cover_mm: 44 },
  oil_in_pan_l: 5,
  held: {
    rpm: 4000,
    total_l: 2.2,
    pressed_l: 1.3,
    heads_l: 0.5,
    thrown_l: 0.4,
    coming_back_l: 0,
    learned_l: 0,
  },
  capacity_to_rail_l: 13.44,
  level_curve_l_mm: [],
  around: [],
  crank: null,
};
const level: OilSurface = { normal: [0, 0, 1], level_mm: -140 + 5e6 / (400 * 240) };

describe("the oil drawn", () => {
  it("is as much as it should be, level and tilted", () => {
    expect(litresDrawn(drawing, level)).toBeCloseTo(5, 9);
    // half full under any tilt through the middle of the box
    const n: Vector = [0.6, 0, 0.8];
    expect(litresDrawn(drawing, { normal: n, level_mm: 0.6 * 200 - 0.8 * 70 })).toBeCloseTo(
      6.72,
      9,
    );
  });
  it("lies below its surface, and the cut leaves away the viewer's half", () => {
    const pieces = piecesOf(drawing, level, "along", [0.2, 1, 0.5]);
    for (const point of [...pieces.oilSides, ...pieces.oilSurface, ...pieces.oilCut].flat()) {
      expect(point[2]).toBeLessThanOrEqual(level.level_mm + 1e-6);
      expect(point[1]).toBeLessThanOrEqual(1e-9);
    }
    expect(pieces.metal.length).toBe(3); // floor, far wall, and the end wall away from the viewer
    expect(pieces.heights.map(({ z }) => z)).toEqual([]);
  });
  it("carries height lines where it is tilted", () => {
    const n: Vector = [0.6, 0, 0.8];
    const tilted = piecesOf(drawing, { normal: n, level_mm: 64 }, "none", [0, 1, 1]);
    expect(tilted.heights.map(({ z }) => z)).toEqual([-100, -50]);
  });
});

describe("cutPlane", () => {
  it("follows the viewer round", () => {
    expect(cutPlane(drawing, "along", [0, 1, 0])?.normal).toEqual([0, 1, 0]);
    expect(cutPlane(drawing, "along", [0, -1, 0])?.normal).toEqual([0, -1, 0]);
    expect(cutPlane(drawing, "across", [1, 0, 0])).toEqual({ normal: [1, 0, 0], level: 200 });
    expect(cutPlane(drawing, "none", [0, 1, 0])).toBeNull();
  });
});

describe("triangles", () => {
  it("fill a polygon with a hole", () => {
    const flat = triangles([
      at(0, 1, 2, 3),
      at(0, 1, 2, 3).map(([x, y, z]): Vector => [200 + (x - 200) / 2, y / 2, z]),
    ]);
    let area = 0;
    for (let i = 0; i < flat.length; i += 9) {
      const [ax = 0, ay = 0, , bx = 0, by = 0, , cx = 0, cy = 0] = flat.slice(i, i + 9);
      area += Math.abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2;
    }
    expect(area).toBeCloseTo(400 * 240 * 0.75);
  });
});

describe("a scan's many pieces", () => {
  it("have edges where they part, and none where they lie nearly in one plane", () => {
    const strip = (n: number, z: number): Drawing["faces"][number] => ({
      kind: "floor",
      corners_mm: [
        [n, 0, -50 + z],
        [n + 1, 0, -50 - z],
        [n + 1, 90, -50 - z],
        [n, 90, -50 + z],
      ].map(([x = 0, y = 0, h = 0]) => [4 * x, y, h] as [number, number, number]),
    });
    const rough = Array.from({ length: 300 }, (_, n) => strip(n, n % 2 ? 0.02 : -0.02));
    const wall: Drawing["faces"][number] = {
      kind: "wall",
      corners_mm: [
        [0, 0, 0],
        [0, 0, -50],
        [0, 90, -50],
        [0, 90, 0],
      ],
    };
    const oil = { normal: [0, 0, 1] as const, level_mm: -200 };
    const found = piecesOf({ ...drawing, faces: [...rough, wall] }, oil, "none", [0, 0, 1]);
    const inside = found.edges.filter(([a, b]) => a[0] === b[0] && a[0] > 2 && a[0] < 1190);
    expect(inside).toHaveLength(0); // between two strips of floor
    expect(found.edges.length).toBeGreaterThan(300); // along both sides of all of them
  });
});
