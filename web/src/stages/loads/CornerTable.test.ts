import { describe, expect, it } from "vitest";
import { cornerInLongestGap } from "./CornerTable";

describe("a corner that was not found", () => {
  it("goes in the middle of the longest gap", () => {
    const corners = [
      { name: null, start_s: 5, end_s: 10 },
      { name: null, start_s: 40, end_s: 60 },
    ];
    expect(cornerInLongestGap(corners, 70)).toEqual({ name: null, start_s: 20, end_s: 30 });
  });
  it("takes the lap's middle when there is none", () => {
    expect(cornerInLongestGap([], 60)).toEqual({ name: null, start_s: 20, end_s: 40 });
  });
});
