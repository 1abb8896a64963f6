import { describe, expect, it } from "vitest";
import { nudged } from "./nudge";
import { exactlyShown, gasFlowAs, lengthAs, shownAs, unitKey, type Units } from "./units";

const unit = (label: string, scale: number, offset: number, decimals: number) => ({
  label,
  scale,
  offset,
  decimals,
});

// factors as the server sends them, from pint
const units: Units = [
  { suffix: "_mm", metric: unit("mm", 1, 0, 0), us: unit("in", 1 / 25.4, 0, 2) },
  { suffix: "_l", metric: unit("L", 1, 0, 1), us: unit("qt", 1.0566882094, 0, 1) },
  { suffix: "_l_min", metric: unit("L/min", 1, 0, 1), us: unit("gpm", 1 / 3.785411784, 0, 1) },
  { suffix: "_c", metric: unit("°C", 1, 0, 0), us: unit("°F", 1.8, 32, 0) },
];

describe("shownAs", () => {
  it("shows in both systems", () => {
    expect(shownAs(units, "oil.volume_l", "us", 6.2)).toEqual({ figure: "6.6", unit: "qt" });
    expect(shownAs(units, "oil.temperature_c", "us", 100)).toEqual({ figure: "212", unit: "°F" });
    expect(lengthAs(units, "metric", 137.6)).toEqual({ figure: "138", unit: "mm" });
    expect(shownAs(units, "oil.grade", "us", 1)).toBeNull();
  });
  it("takes the unit from the last name of a path", () => {
    expect(unitKey("pan.zones.0.outline_mm.1.0")).toBe("outline_mm");
    expect(shownAs(units, "pan.zones.0.outline_mm.1.0", "us", 25.4)?.figure).toBe("1.00");
  });
});

describe("gasFlowAs", () => {
  it("shows no tenth from ten of the unit shown on", () => {
    expect(gasFlowAs(units, "metric", 9.94)).toEqual({ figure: "9.9", unit: "L/min" });
    expect(gasFlowAs(units, "metric", 9.96)).toEqual({ figure: "10", unit: "L/min" });
    expect(gasFlowAs(units, "us", 37.6)).toEqual({ figure: "9.9", unit: "gpm" });
    expect(gasFlowAs(units, "us", 37.8)).toEqual({ figure: "10", unit: "gpm" });
    expect(gasFlowAs(units, "metric", -147.8).figure).toBe("-148"); // what is sucked in
  });
});

describe("exactlyShown", () => {
  it("adds decimals only where they say something", () => {
    expect(exactlyShown(units, "gap_mm", "metric", 8).figure).toBe("8");
    expect(exactlyShown(units, "gap_mm", "metric", 9.525).figure).toBe("9.53");
    expect(exactlyShown(units, "gap_mm", "us", 9.525).figure).toBe("0.375");
  });
});

describe("nudged", () => {
  it("steps the last place and keeps the unit", () => {
    expect(nudged("8", 1)).toBe("9");
    expect(nudged("6.2 qt", -1)).toBe("6.1 qt");
    expect(nudged("0.38", 1)).toBe("0.39");
    expect(nudged("3/8 in", 1)).toBeNull();
    expect(nudged("lots", 1)).toBeNull();
  });
});
