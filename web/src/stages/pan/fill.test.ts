import { describe, expect, it } from "vitest";
import { heightAt, standingAt } from "./fill";

const fill = {
  normal: [0, 0, 1] as [number, number, number],
  lowest_mm: -140,
  curve_l_mm: [
    [0, 0],
    [2, 40],
    [4, 60],
  ] as [number, number][],
};

describe("heightAt", () => {
  it("reads between the curve's points, and holds to its ends", () => {
    expect(heightAt(fill, 1)).toBe(20);
    expect(heightAt(fill, 3)).toBe(50);
    expect(heightAt(fill, 99)).toBe(60);
  });
});

describe("standingAt", () => {
  it("stands above the lowest point", () => {
    expect(standingAt(fill, 2)).toEqual({ normal: [0, 0, 1], level_mm: -100 });
  });
});
