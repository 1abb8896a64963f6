import { describe, expect, it } from "vitest";
import { DRY } from "../../testing/dry";
import { SETTINGS } from "../../testing/settings";
import { stepsOf } from "./FindLevel";
import { capacityPlaces, carriedSentence, roseSentence, thrownWord, type Carried } from "./lost";

const ROSE = DRY.rose;
const CARRIED: Carried = {
  order: "none",
  joined_pct: 60,
  cooler_pct: 60,
  tank_pct: 60,
  taken_out_pct: 70,
};

describe("the scavenge rose", () => {
  it("lies on the page as oil is thrown: forward up, left to the left, no further than its rim", () => {
    if (!ROSE) throw new Error("the demo has one");
    const places = capacityPlaces({ size: 200, radius: 80, rim: 2 }, ROSE);
    expect(places.map(([x, y]) => [Math.round(x), Math.round(y)])).toEqual([
      [100, 44],
      [20, 100],
      [100, 136],
      [180, 100],
    ]);
  });

  it("is told by its weakest direction", () => {
    if (!ROSE) throw new Error("the demo has one");
    expect(roseSentence(ROSE)).toContain("throwing oil back");
    expect(roseSentence(ROSE)).toContain("never keep up");
    expect(roseSentence({ ...ROSE, capacity: [0.4, 2, 2, 2] })).toContain("0.8 L stay in the pan");
  });

  it("names eight directions", () => {
    expect([0, 44, 90, 226, 315, 359, -90].map(thrownWord)).toEqual([
      "forward",
      "forward and left",
      "left",
      "back and right",
      "forward and right",
      "forward",
      "right",
    ]);
  });
});

describe("gas on the way back", () => {
  it("says where the separator is and what it leaves", () => {
    expect(carriedSentence(CARRIED)).toContain("the cooler and the tank have all of it");
    expect(carriedSentence({ ...CARRIED, cooler_pct: null })).toContain("the tank has all of it");
    expect(carriedSentence({ ...CARRIED, order: "alone", tank_pct: 31 })).toContain("no cooler");
    const after = carriedSentence({ ...CARRIED, order: "after", tank_pct: 31 });
    expect(after).toContain("All of it goes through the cooler");
    expect(after).toContain("31 % for the tank");
  });
});

describe("finding the level", () => {
  it("has the oil and the tank's own marks in its steps", () => {
    const steps = stepsOf(DRY, 6.2, SETTINGS.units, "metric");
    expect(steps[0]).toContain("6.2");
    expect(steps[1]).toContain("236");
    expect(steps[1]).toContain("Under 104");
    expect(steps[1]).toContain("Over 303");
    const bare = { ...DRY, marks: { ...DRY.marks, low_mm: null } };
    expect(stepsOf(bare, 6.2, SETTINGS.units, "metric")[1]).toContain("A lap tells the low mark.");
  });
});
