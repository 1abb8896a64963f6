import { describe, expect, it } from "vitest";
import { areaNormal, clipPolygon, crossings, sliceTetrahedron, type Vector } from "./solid";

const square: Vector[] = [
  [0, 0, 0],
  [10, 0, 0],
  [10, 10, 0],
  [0, 10, 0],
];
const area = (polygon: readonly Vector[]): number => Math.hypot(...areaNormal(polygon)) / 2;

describe("polygons", () => {
  it("have their area, and a normal by the right hand", () => {
    expect(area(square)).toBe(100);
    expect(areaNormal(square)).toEqual([0, 0, 200]);
  });
  it("are cut by a plane", () => {
    expect(area(clipPolygon(square, { normal: [1, 0, 0], level: 4 }))).toBeCloseTo(40);
    expect(clipPolygon(square, { normal: [1, 0, 0], level: -1 })).toEqual([]);
    expect(
      area(clipPolygon(square, { normal: [Math.SQRT1_2, Math.SQRT1_2, 0], level: 0.001 })),
    ).toBeLessThan(0.01);
  });
  it("say where the plane crosses them, also twice", () => {
    expect(crossings(square, { normal: [1, 0, 0], level: 4 })).toHaveLength(1);
    const notched: Vector[] = [
      [0, 0, 0],
      [10, 0, 0],
      [10, 10, 0],
      [6, 10, 0],
      [6, 2, 0],
      [4, 2, 0],
      [4, 10, 0],
      [0, 10, 0],
    ];
    const found = crossings(notched, { normal: [0, 1, 0], level: 5 });
    const lengths = found.map(([from, to]) => Math.abs(from[0] - to[0]));
    expect(lengths).toEqual([4, 4]);
  });
});

describe("tetrahedra", () => {
  const corners: Vector[] = [
    [0, 0, 0],
    [6, 0, 0],
    [0, 6, 0],
    [0, 0, 6],
  ];
  it("are sliced to a triangle of the right size", () => {
    expect(area(sliceTetrahedron(corners, { normal: [0, 0, 1], level: 3 }))).toBeCloseTo(4.5);
  });
  it("are sliced to a quadrilateral that does not cross itself", () => {
    // halfway between two opposite edges: a rectangle of half of each edge's length
    const cut = sliceTetrahedron(corners, { normal: [1, 1, 0], level: 3 });
    expect(cut).toHaveLength(4);
    expect(area(cut)).toBeCloseTo(3 * Math.hypot(3, 3));
  });
  it("are missed", () => {
    expect(sliceTetrahedron(corners, { normal: [0, 0, 1], level: 7 })).toEqual([]);
  });
});
