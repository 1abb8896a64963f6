import { describe, expect, it } from "vitest";
import type { BottleMap } from "../../api/pressure";
import {
  bestCharge,
  bottleAt,
  clearOf,
  contoursOf,
  levelsOf,
  withinMap,
  xOf,
  yOf,
} from "./bottleMap";

const AXES = { left: 30, right: 330, top: 20, bottom: 190, mostBar: 4, mostL: 4 };
const SIZES = [1, 2, 3, 4];
const CHARGES = [1, 2, 3, 4];
/** Rises with the size, and with the charge up to 3 bar. */
const MAP: BottleMap = {
  volumes_l: SIZES,
  precharges_bar: CHARGES,
  lowest_bar: SIZES.map((size) =>
    CHARGES.map((bar) => 1 + size * 0.5 + (bar <= 3 ? bar * 0.2 : -1)),
  ),
  under_s: SIZES.map((size) => CHARGES.map((bar) => (size >= 3 && bar <= 3 ? 0 : 0.4))),
};

describe("the map of bottles", () => {
  it("reads a place as a bottle, to a tenth, and keeps it on the map", () => {
    expect(bottleAt(AXES, xOf(AXES, 2.44), yOf(AXES, 1.26))).toEqual({ bar: 2.4, litres: 1.3 });
    expect(bottleAt(AXES, -50, 900)).toEqual({ bar: 0.2, litres: 0.5 });
    expect(bottleAt(AXES, 999, -9)).toEqual({ bar: 4, litres: 4 });
  });
  it("finds the best charge of the nearest size: no dip first, then the most pressure", () => {
    expect(bestCharge(MAP, 3.2)).toBe(3);
    expect(bestCharge(MAP, 0.1)).toBe(3);
  });
  it("draws lines at round pressures between its least and most", () => {
    const levels = levelsOf(MAP);
    expect(levels.length).toBeGreaterThan(2);
    expect(levels.length).toBeLessThan(9);
    expect(levelsOf({ ...MAP, lowest_bar: SIZES.map(() => [5, 5, 5, 5]) })).toEqual([]);
  });
  it("has its contours where the values are", () => {
    // along the lowest row 1 + 0.5 + 0.2 bar: 1.9 is at 2 bar
    const [line] = contoursOf(MAP, MAP.lowest_bar, [2.4], AXES);
    const points = line?.rings.flatMap((ring) => withinMap(ring, MAP, AXES)).flat() ?? [];
    expect(points.length).toBeGreaterThan(0);
    for (const [x, y] of points) {
      const bar = ((x - AXES.left) / 300) * 4;
      const size = ((AXES.bottom - y) / 170) * 4;
      if (bar < 2.9) expect(1 + size * 0.5 + bar * 0.2).toBeCloseTo(2.4, 1);
    }
  });
});

describe("a word beside the mark", () => {
  it("goes under it where it would be covered, and stays where it is clear", () => {
    expect(clearOf([100, 80], [131, 80])).toEqual([100, 108]);
    expect(clearOf([100, 80], [132, 80])).toEqual([100, 80]);
    expect(clearOf([100, 80], [100, 99])).toEqual([100, 127]);
    expect(clearOf([100, 80], [100, 100])).toEqual([100, 80]);
  });
});
