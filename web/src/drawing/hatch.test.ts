import { describe, expect, it } from "vitest";
import type { Ring } from "./geometry";
import { hatchPath } from "./hatch";

const square = (low: number, high: number): Ring => [
  [low, low],
  [high, low],
  [high, high],
  [low, high],
];
const lengthOf = (path: string): number =>
  [...path.matchAll(/M([-\d.]+) ([-\d.]+)L([-\d.]+) ([-\d.]+)/g)].reduce((sum, [, a, b, c, d]) => {
    const [du, dv] = [Number(c) - Number(a), Number(d) - Number(b)];
    expect(Math.abs(du)).toBeCloseTo(Math.abs(dv), 1); // at 45°
    return sum + Math.hypot(du, dv);
  }, 0);

describe("hatchPath", () => {
  it("covers an area with as much line as its spacing asks for", () => {
    // lines are spacing / sqrt 2 apart square to themselves
    const wanted = (100 * 100) / (5 / Math.SQRT2);
    expect(lengthOf(hatchPath([square(0, 100)], 5, 1)) / wanted).toBeCloseTo(1, 1);
    expect(lengthOf(hatchPath([square(0, 100)], 5, -1)) / wanted).toBeCloseTo(1, 1);
  });
  it("leaves holes free", () => {
    const whole = lengthOf(hatchPath([square(0, 100)], 5, 1));
    const holed = lengthOf(hatchPath([square(0, 100), square(25, 75)], 5, 1));
    expect(holed / whole).toBeCloseTo(0.75, 1);
    expect(hatchPath([], 5, 1)).toBe("");
  });
});
