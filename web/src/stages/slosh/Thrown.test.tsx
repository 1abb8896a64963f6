// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { show, wordsIn } from "../../testing/shown";
import { Thrown } from "./Thrown";

const WINDAGE = {
  reached_l: 0.14,
  thrown_l_min: { low: 42, likely: 84, high: 168 },
  power_kw: { low: 0.7, likely: 2.3, high: 5.7 },
};

describe("what the crank throws", () => {
  it("is told beside another pan first, then as a range that is our own estimate", () => {
    const { container } = show(<Thrown windage={WINDAGE} beside="1.9 times what R2 throws" />);
    expect(wordsIn(container)).toMatch(
      /1\.9 times what R2 throws.*0\.14 L in its sweep on average, about 84 L\/min thrown, 1 to 6 kW.*checked against no measurement/,
    );
  });

  it("says what is wanted for a ratio", () => {
    const { container } = show(<Thrown windage={WINDAGE} beside="" />);
    expect(wordsIn(container.querySelector("[data-beside]"))).toMatch(/^Nothing to lay beside it/);
  });
});
