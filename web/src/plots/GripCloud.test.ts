import { describe, expect, it } from "vitest";
import { heldToward, rimOf } from "./GripCloud";

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
