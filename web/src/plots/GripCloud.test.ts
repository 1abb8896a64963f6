import { describe, expect, it } from "vitest";
import { alongEngine, heldToward, rimOf } from "./GripCloud";

describe("the cloud's dial", () => {
  it("reaches the next quarter of g", () => {
    expect(rimOf([[1.1, 0.2]])).toBe(1.25);
    expect(rimOf([[0, 0]])).toBe(0.5);
  });
});

describe("what is held", () => {
  const held = {
    thrown_deg: [0, 90, 180, 270],
    holds_s: [0.1, 1],
    load_g: [
      [1.1, 1.3, 0.5, 1.2],
      [0.9, 1.2, 0.4, 1],
    ],
  };
  it("is read toward a side", () => {
    expect(heldToward(held, 90)).toEqual([1.3, 1.2]);
    expect(heldToward(held, 0)).toEqual([1.1, 0.9]);
  });
});

describe("along the engine", () => {
  const held = { thrown_deg: [0, 90, 180, 270], holds_s: [1], load_g: [[1.1, 1.3, 0.5, 1.2]] };
  it("is the car's own with the nose to the front", () => {
    const same = alongEngine([[1, 0.5]], held, "front");
    expect(same.cloud[0]?.[0]).toBeCloseTo(1);
    expect(same.held.thrown_deg).toEqual(held.thrown_deg);
  });
  it("turns a left turn into the engine's fore and aft when it sits across", () => {
    // nose to the car's right: pulled left in the car is pulled toward the engine's tail
    const across = alongEngine([[1, 0]], held, "right");
    expect(across.cloud[0]?.[0]).toBeCloseTo(0);
    expect(across.cloud[0]?.[1]).toBeCloseTo(-1);
    // oil thrown to the car's right by it goes to the nose
    expect(heldToward(across.held, 0)).toEqual([1.2]);
  });
  it("is reversed with the nose to the rear", () => {
    expect(heldToward(alongEngine([], held, "rear").held, 0)).toEqual([0.5]);
  });
});
