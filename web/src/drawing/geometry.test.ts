import { describe, expect, it } from "vitest";
import {
  boxOf,
  clipRing,
  edgeInside,
  isWithin,
  pathOf,
  turned,
  type Point,
  type Ring,
} from "./geometry";

const square: Ring = [
  [0, 0],
  [2, 0],
  [2, 2],
  [0, 2],
];

// two pools joined at the top: a clip at 1 must leave both, and no surface between them
const twoPools: Ring = [
  [0, 0],
  [1, 0],
  [1, 1.5],
  [2, 1.5],
  [2, 0],
  [3, 0],
  [3, 2],
  [0, 2],
];

const area = (ring: readonly Point[]): number =>
  Math.abs(
    ring.reduce((sum, [u, v], i) => {
      const [nu, nv] = ring[(i + 1) % ring.length] ?? [0, 0];
      return sum + u * nv - nu * v;
    }, 0) / 2,
  );

describe("clipRing", () => {
  it("keeps the part below a level", () => {
    expect(area(clipRing(square, { a: 0, b: 1, c: 0.5 }))).toBeCloseTo(1);
  });
  it("keeps a triangle under a slope of one", () => {
    expect(area(clipRing(square, { a: 1, b: 1, c: 1 }))).toBeCloseTo(0.5);
  });
  it("keeps all or nothing", () => {
    expect(area(clipRing(square, { a: 0, b: 1, c: 9 }))).toBeCloseTo(4);
    expect(clipRing(square, { a: 0, b: 1, c: -1 })).toEqual([]);
  });
  it("has the right area over two pools", () => {
    expect(area(clipRing(twoPools, { a: 0, b: 1, c: 1 }))).toBeCloseTo(2);
  });
});

describe("edgeInside", () => {
  it("gives one stretch per pool and none through the wall between", () => {
    const stretches = edgeInside(twoPools, { a: 0, b: 1, c: 1 });
    expect(stretches.map((pair) => pair.map(([u]) => u).sort())).toEqual([
      [2, 3],
      [0, 1],
    ]);
  });
  it("is empty outside", () => {
    expect(edgeInside(square, { a: 0, b: 1, c: 5 })).toEqual([]);
  });
});

describe("turned, boxOf, pathOf", () => {
  it("turns clockwise on a page whose v runs down", () => {
    const [u, v] = turned([1, 0], 90);
    expect(u).toBeCloseTo(0);
    expect(v).toBeCloseTo(1);
  });
  it("bounds and writes", () => {
    expect(boxOf(square)).toEqual({ left: 0, right: 2, top: 0, bottom: 2 });
    expect(pathOf([[1, 2]])).toBe("M1.00 2.00Z");
    expect(pathOf([])).toBe("");
  });
});

describe("within a ring", () => {
  const ell: Point[] = [
    [0, 0],
    [4, 0],
    [4, 1],
    [1, 1],
    [1, 3],
    [0, 3],
  ];
  it("counts both arms of an L and not what lies between them", () => {
    expect(isWithin(ell, 3, 0.5, 0)).toBe(true);
    expect(isWithin(ell, 0.5, 2.5, 0)).toBe(true);
    expect(isWithin(ell, 2, 2, 0)).toBe(false);
    expect(isWithin(ell, -1, 0.5, 0)).toBe(false);
  });
  it("counts the edge, as far as the rim goes", () => {
    expect(isWithin(ell, 4.005, 0.5, 0.01)).toBe(true);
    expect(isWithin(ell, 4.02, 0.5, 0.01)).toBe(false);
    expect(isWithin(ell, 1, 3.005, 0.01)).toBe(true);
  });
});
