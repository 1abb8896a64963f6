import { describe, expect, it } from "vitest";
import {
  inside,
  kindAfter,
  lacking,
  movedTo,
  nextWords,
  NOTHING,
  withPlace,
  without,
  type Picked,
} from "./tracing";

const FOUR: Picked = {
  ...NOTHING,
  corners: [
    [0, 0],
    [9, 0],
    [9, 9],
    [0, 9],
  ],
};

describe("tracing a picture", () => {
  it("asks for the paper's corners one by one, and for no fifth", () => {
    let picked: Picked = NOTHING;
    const asked = ["upper left", "upper right", "lower right", "lower left"];
    asked.forEach((words, n) => {
      expect(nextWords("corners", picked)).toContain(words);
      expect(kindAfter("corners", picked)).toBe("corners");
      picked = withPlace(picked, "corners", [n, n]);
    });
    expect(nextWords("corners", picked)).toContain("drag what is off");
    expect(withPlace(picked, "corners", [5, 5])).toBe(picked);
    expect(kindAfter("corners", picked)).toBe("outline");
  });
  it("says what is lacking until it can be read", () => {
    expect(lacking(NOTHING)).toContain("0 of 4");
    expect(lacking(FOUR)).toContain("outline");
    const round: Picked = { ...FOUR, outline: FOUR.corners };
    expect(lacking(round)).toBe("");
    expect(lacking({ ...round, opening: [[1, 1]] })).toContain("opening");
    expect(lacking({ ...round, opening: FOUR.corners.slice(0, 3) })).toBe("");
  });
  it("moves and takes away one place", () => {
    expect(movedTo(FOUR, "corners", 1, [8, 1]).corners).toEqual([
      [0, 0],
      [8, 1],
      [9, 9],
      [0, 9],
    ]);
    expect(without(FOUR, "corners", 0).corners).toHaveLength(3);
  });
  it("stays on the picture", () => {
    expect(inside([-3, 20.26], 10, 20)).toEqual([0, 20]);
    expect(inside([4.26, 7], 10, 20)).toEqual([4.3, 7]);
  });
});
