import { describe, expect, it } from "vitest";
import { typedMm, typedPlace } from "./typedPlace";

describe("a place as it is typed", () => {
  it.each([
    ["96", "metric", 96],
    ["-112.5", "metric", -112.5],
    ["−5,5", "metric", -5.5],
    ["2 in", "metric", 50.8],
    ['3 1/2"', "metric", 88.9],
    ["-1/4", "us", -6.35],
    ["4", "us", 101.6],
    ["40 mm", "us", 40],
    ["3 cm", "us", 30],
  ] as const)("%s (%s) is %d mm", (text, system, mm) => {
    expect(typedMm(text, system)).toBeCloseTo(mm, 9);
  });

  it.each(["", "-", "mm", "12 bar", "1/0", "a"])("%j is no figure yet", (text) => {
    expect(typedMm(text, "metric")).toBeNull();
  });

  it("is told over the rail, where it is typed under it too", () => {
    expect(typedPlace("comes in", ["10", "", "30"], "metric", true).at_mm).toEqual([10, null, -30]);
    expect(typedPlace("oil leaves", ["10", "5", "30"], "metric", false).at_mm).toEqual([10, 5, 30]);
  });
});
