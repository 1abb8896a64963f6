// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { spreadWords } from "./MovingOil";

describe("the spread of dry times", () => {
  it("is told with its mean, deviation and ends", () => {
    expect(spreadWords({ dry_s: [1.8, 2.04, 1.92], mean_s: 1.92, deviation_s: 0.12 })).toBe(
      "dry 1.92 ± 0.12 s, 1.8 to 2.0",
    );
  });
});
