import { describe, expect, it } from "vitest";
import { atTimes } from "./moving";

describe("values at other times", () => {
  it("lie straight between those there are", () => {
    expect(atTimes([0, 1, 2], [0, 10, 0], [0, 0.5, 1, 1.5, 2])).toEqual([0, 5, 10, 5, 0]);
  });
  it("stay at the ends beyond them", () => {
    expect(atTimes([0, 1], [3, 4], [-1, 5])).toEqual([3, 4]);
  });
  it("do with one value, and with none", () => {
    expect(atTimes([0], [7], [0, 1])).toEqual([7, 7]);
    expect(atTimes([], [], [0])).toEqual([0]);
  });
});
