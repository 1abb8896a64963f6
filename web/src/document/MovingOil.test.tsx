// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { spreadWords } from "./MovingOil";

describe("the spread of dry times", () => {
  const starts = { dry_s: [1.8, 2.04, 1.92], mean_s: 1.92, deviation_s: 0.12 };
  it("is told with its mean, deviation and ends, and whether it holds", () => {
    expect(spreadWords({ ...starts, under_s: [0, 0, 0], holds: true })).toBe(
      "holds in all; dry 1.92 ± 0.12 s, 1.8 to 2.0",
    );
  });
  it("says in how many starts it holds", () => {
    expect(spreadWords({ ...starts, under_s: [0, 0.3, 0], holds: false })).toBe(
      "holds in 2 of 3; dry 1.92 ± 0.12 s, 1.8 to 2.0",
    );
  });
});
