import { describe, expect, it } from "vitest";
import { limitsOf } from "./limits";

const rule = (key: string, high: number | null) => ({
  key,
  high,
  low: null,
  words: `words of ${key}`,
  source: "ours",
  unit: "1",
});
const RULES = [
  rule("draws_air", 0.05),
  rule("runs_dry", 0.5),
  rule("crank_splash", 20e-6),
  rule("mouth_gap", 9.5e-3),
  { ...rule("pressure_dip", null), low: 0.6 },
];

describe("limits of the core's rules", () => {
  it("are taken by their keys, oil in litres", () => {
    expect(limitsOf(RULES)).toEqual({
      drawsAir: 0.05,
      runsDry: 0.5,
      splashL: 0.02,
      dipShare: 0.6,
      mouthGap: "words of mouth_gap: ours",
    });
  });

  it("are missed by name, not guessed", () => {
    expect(() => limitsOf(RULES.slice(1))).toThrow("draws_air");
  });
});
