import { describe, expect, it } from "vitest";
import type { Command } from "../parts/commands";
import { matching, typedFigure } from "./CommandBox";

const command = (id: string, words: string): Command => ({
  id,
  words,
  group: "Lap",
  run: () => undefined,
});

describe("matching", () => {
  const all = [
    command("a", "Go to the next dip"),
    command("b", "Next dip"),
    command("c", "Night theme"),
  ];
  it("wants every word, and puts first what begins with the first", () => {
    expect(matching(all, "next dip").map(({ id }) => id)).toEqual(["b", "a"]);
    expect(matching(all, "nig").map(({ id }) => id)).toEqual(["c"]);
    expect(matching(all, "")).toHaveLength(3);
    expect(matching(all, "warp")).toEqual([]);
  });
});

describe("typedFigure", () => {
  const names = { oil: "oil.volume_l", "mouth gap": "pickup.gap_mm" };
  it("takes a name and a figure with its unit", () => {
    expect(typedFigure("oil 7 qt", names)).toEqual({
      name: "oil",
      field: "oil.volume_l",
      figure: "7 qt",
    });
    expect(typedFigure("Mouth gap 3/8 in", names)?.field).toBe("pickup.gap_mm");
    expect(typedFigure("oil", names)).toBeNull();
    expect(typedFigure("water 5 L", names)).toBeNull();
  });
});
