import { describe, expect, it } from "vitest";
import type { OilFrames } from "../api/frames";
import { boxOf, type Point } from "./geometry";
import {
  highestOil,
  oilInSection,
  oilOnFloor,
  ringsPath,
  swingOf,
  type MovingFrame,
} from "./movingOil";

const line = (count: number): Float64Array =>
  Float64Array.from({ length: count + 1 }, (_, n) => 10 * n);

/** Cells of 10 mm, 6 x 4 x 5, filled as a function of the place of the cell says. */
function frame(full: (i: number, j: number, k: number) => number, index = 0): MovingFrame {
  const count = 6 * 4 * 5;
  const cells = Int32Array.from({ length: count }, (_, n) => n);
  const one = Uint8Array.from({ length: count }, (_, n) =>
    Math.round(
      200 * Math.min(1, Math.max(0, full(Math.floor(n / 20), Math.floor(n / 5) % 4, n % 5))),
    ),
  );
  const frames: OilFrames = {
    faces: [line(6), line(4), line(5)],
    cells,
    rate: 25,
    count: index + 1,
    filling: (at) => (at === index ? one : new Uint8Array(count)),
  };
  return { frames, index, gatesOpen: { "P1, G1": 0.5 } };
}

const level = (height: number) => (_i: number, _j: number, k: number) => height - k;
const inside = (rings: Point[][], [u0, v0, u1, v1]: [number, number, number, number]): Point[] =>
  rings.flat().filter(([u, v]) => u > u0 && u < u1 && v > v0 && v < v1);

describe("moving oil in a section", () => {
  it("has its surface where the oil stands, and goes beyond the walls to be cut off there", () => {
    for (const height of [2.5, 2.75, 3.5]) {
      const rings = oilInSection(frame(level(height)), "side", 15);
      const surface = inside(rings, [0, 5, 60, 50]);
      for (const [, v] of surface) expect(Math.abs(v - 10 * height)).toBeLessThan(1.3);
      const box = boxOf(rings.flat());
      expect(box.left).toBeLessThan(0);
      expect(box.right).toBeGreaterThan(60);
      expect(box.top).toBeLessThan(0);
    }
  });
  it("is read where it is cut", () => {
    const heap = frame((_, j, k) => (j === 2 ? 4 : 1) - k);
    const top = (at: number): number =>
      boxOf(inside(oilInSection(heap, "side", at), [0, 0, 60, 50])).bottom;
    expect(top(25)).toBeCloseTo(40, 0);
    expect(top(5)).toBeCloseTo(10, 0);
    const across = oilInSection(heap, "front", 33);
    expect(boxOf(inside(across, [0, 0, 40, 50])).bottom).toBeCloseTo(40, 0);
  });
  it("is of its own frame, and nothing where there is no oil", () => {
    expect(oilInSection(frame(level(2.5), 3), "front", 5).length).toBe(1);
    expect(
      oilInSection(
        frame(() => 0),
        "front",
        5,
      ),
    ).toEqual([]);
    expect(oilInSection(frame(level(2)), "front", 900).length).toBe(1); // the last cells there are
  });
});

describe("moving oil from above", () => {
  it("is where the floor is under it", () => {
    const rings = oilOnFloor(frame((i) => (i < 3 ? 1 : 0)));
    const edge = inside(rings, [1, 1, 59, 39]).map(([u]) => u);
    expect(Math.min(...edge)).toBeCloseTo(30, 0);
    expect(Math.max(...edge)).toBeCloseTo(30, 0);
  });
  it("stands as high as more of it than a splash lies", () => {
    // a row of four cells of 1 ml stands higher than the rest, by two layers
    const heap = frame((i, _, k) => (i === 5 ? 4 : 2) - k);
    expect(highestOil(heap, 3)).toBe(40);
    expect(highestOil(heap, 6)).toBe(30);
    expect(highestOil(heap, 20)).toBe(20);
    expect(
      highestOil(
        frame(() => 0),
        3,
      ),
    ).toBe(-Infinity);
  });
});

describe("gates", () => {
  it("stand as far off as they are open; where nothing moves, as they are shown", () => {
    const moving = frame(level(1));
    expect(swingOf(moving, "P1, G1", 1)).toBeCloseTo(Math.PI / 6);
    expect(swingOf(moving, "P1, G9", 1)).toBe(0);
    expect(swingOf(null, "P1, G1", 0.4)).toBe(0.4);
  });
});

it("rings become one path", () => {
  const rings: Point[][] = [
    [
      [0, 0],
      [1, 0],
      [0, 1],
    ],
    [
      [5, 5],
      [6, 5],
      [5, 6],
    ],
  ];
  expect(ringsPath(rings, ([u, v]) => [u + 1, v]).match(/M/g)?.length).toBe(2);
});
