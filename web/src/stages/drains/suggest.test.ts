import { describe, expect, it } from "vitest";
import type { Now } from "./elevation";
import { suggestionsFor } from "./suggest";

const now = (neededMm: number, pushMm: number): Now => ({
  up: [0, 0, 1],
  levelMm: 0,
  thereMm: 20,
  neededMm,
  pushMm,
  underMm: 10,
  sealed: true,
  fill: [],
  heldMl: null,
});
const said = (mm: number): string => `${mm} mm`;

describe("what to try first", () => {
  it("is a wider breather where gas pushes, then a size more", () => {
    const found = suggestionsFor(now(80, 40), { dash: 10, openingMm: 9 }, said);
    expect(found.map(({ words }) => words)).toEqual(["Try a 14 mm breather", "Try size 12"]);
  });

  it("is a size more where the line itself takes the head", () => {
    const found = suggestionsFor(now(80, 5), { dash: 8, openingMm: 9 }, said);
    expect(found[0]?.change).toEqual({ dash: 10 });
    expect(suggestionsFor(now(80, 0), { dash: 20, openingMm: 9 }, said)).toEqual([]);
  });
});
