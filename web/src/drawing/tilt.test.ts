import { describe, expect, it } from "vitest";
import { between, oilUnder, reachOf, type Tilt } from "./tilt";

// an upright box filled to 60 mm: the height along "up" is the same at every load
const flat = (value: number): number[][] => [0, 1, 2].map(() => [value, value, value]);
const tilt: Tilt = {
  loads_g: [-2, 0, 2],
  at_rest: [0, 0, 1],
  per_fore_g: [1, 0, 0],
  per_side_g: [0, 1, 0],
  height_mm: flat(60),
  to_cover_l: [
    [4, 2, 4],
    [2, 1, 2],
    [4, 2, 4],
  ],
  zones_l: [flat(5)],
};

describe("between", () => {
  it("finds the interval and holds to the ends", () => {
    expect(between([0, 1, 3], 2)).toEqual({ at: 1, part: 0.5 });
    expect(between([0, 1, 3], -5)).toEqual({ at: 0, part: 0 });
    expect(between([0, 1, 3], 9)).toEqual({ at: 1, part: 1 });
  });
});

describe("oilUnder", () => {
  it("is level at rest", () => {
    const { oil, toCoverL, zonesL } = oilUnder(tilt, 0, 0);
    expect(oil).toEqual({ normal: [0, 0, 1], level_mm: 60 });
    expect(toCoverL).toBe(1);
    expect(zonesL).toEqual([5]);
  });
  it("slopes as the load in g, about the box's middle", () => {
    const { oil } = oilUnder(tilt, 1, 0);
    expect(oil.normal[1] / oil.normal[2]).toBeCloseTo(1, 12);
    // a surface z = 60 - y: its distance from the origin along its own normal
    expect(oil.level_mm).toBeCloseTo(60 / Math.SQRT2, 12);
  });
  it("interpolates both ways", () => {
    expect(oilUnder(tilt, 1, 1).toCoverL).toBeCloseTo((1 + 2 + 2 + 4) / 4, 12);
    expect(reachOf(tilt)).toBe(2);
  });
});
