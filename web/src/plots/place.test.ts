import { describe, expect, it } from "vitest";
import { placeWords } from "./place";

const corner = { number: 2, name: null, hand: "left", start_s: 10, end_s: 12 } as const;

describe("a moment as a headline begins", () => {
  it("says the corner, from its first moment to its last", () => {
    const lap = { corners: [corner] };
    expect(placeWords(lap, 10)).toBe("Corner 2, left, at 10.0 s");
    expect(placeWords(lap, 12)).toBe("Corner 2, left, at 12.0 s");
    expect(placeWords(lap, 12.1)).toBe("At 12.1 s");
    expect(placeWords(null, 3)).toBe("At 3.0 s");
  });

  it("calls it by its own name", () => {
    expect(placeWords({ corners: [{ ...corner, name: "Mill" }] }, 11)).toBe(
      "Mill, left, at 11.0 s",
    );
  });
});
