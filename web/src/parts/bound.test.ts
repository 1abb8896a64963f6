import { describe, expect, it } from "vitest";
import { SETTINGS } from "../testing/settings";
import { bound, inUnits } from "./bound";

describe("figures and their units", () => {
  it("stay on one line", () => {
    expect(bound("at the longest 0.7 s. Down to 1.8 bar, 17 % air, 112 °C, 9.6 L/min")).toBe(
      "at the longest 0.7\u00a0s. Down to 1.8\u00a0bar, 17\u00a0% air, 112\u00a0°C, 9.6\u00a0L/min",
    );
  });

  it("leave longer words where they are", () => {
    const words = "3 stages of 4 bearings, corner 2, left";
    expect(bound(words)).toBe(words);
  });
});

describe("the server's words for somebody who works in inches", () => {
  const us = (words: string): string => inUnits(words, SETTINGS.units, "us");

  it("tells lengths, litres and ranges of them", () => {
    expect(us("level plate 51 mm under the rail")).toBe("level plate 2.01 in under the rail");
    expect(us("Not 2 to 3 mm, by −38 mm.")).toBe("Not 0.08 to 0.12 in, by −1.50 in.");
    expect(us("5.1 of 8.0 L in it")).toBe("5.4 of 8.5 qt in it");
  });

  it("tells a temperature, and a difference of two", () => {
    expect(us("oil at 100 °C")).toBe("oil at 212 °F");
    expect(us("oil 10 °C hotter")).toBe("oil 18 °F hotter");
  });

  it("leaves tools, threads and what has no other unit", () => {
    for (const words of [
      "a 27 mm spanner",
      "M22 x 1.5",
      "0.8 s at 1.31 g",
      "3.0 mm/s",
      "100 ml",
      "7.04 deg",
    ])
      expect(us(words)).toBe(words);
  });

  it("leaves all as it is in millimetres", () => {
    expect(inUnits("51 mm", SETTINGS.units, "metric")).toBe("51 mm");
  });
});
