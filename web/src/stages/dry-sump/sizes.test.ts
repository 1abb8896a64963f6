import { describe, expect, it } from "vitest";
import { DRY } from "../../testing/dry";
import { SETTINGS } from "../../testing/settings";
import { decimalsMore, sizeAs, wantedWords } from "./Sizes";

const [size] = DRY.sizes;
if (!size) throw new Error("no sizes");
const of = (wanted: number, found: number, state: "good" | "caution") =>
  ({ ...size, field: "x_l", wanted, wanted_most: null, found, state }) as const;

describe("sizes, wanted and found", () => {
  it("have a decimal more only where what is short would read like what is wanted", () => {
    const more = (wanted: number, found: number, state: "good" | "caution"): number =>
      decimalsMore(SETTINGS.units, "metric", of(wanted, found, state));
    expect(more(2.31, 2.28, "caution")).toBe(1);
    expect(more(2.31, 2.24, "caution")).toBe(0); // 2.3 and 2.2
    expect(more(2.31, 2.33, "good")).toBe(0);
    expect(wantedWords(SETTINGS.units, "metric", of(2.31, 2.28, "caution"))).toBe("2.31");
  });
  it("tell a speed in the units shown", () => {
    expect(sizeAs(SETTINGS.units, "us", "m/s", 5)).toEqual({ figure: "16.4", unit: "ft/s" });
    expect(sizeAs(SETTINGS.units, "metric", "m/s", 5)).toEqual({ figure: "5.0", unit: "m/s" });
  });
});
