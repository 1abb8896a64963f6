import { describe, expect, it } from "vitest";
import { howLong } from "./howLong";

describe("how long", () => {
  it.each([
    [0.2, "under 1 s"],
    [31.6, "about 32 s"],
    [240, "about 4 min"],
    [7200, "about 2.0 h"],
  ])("%f s", (seconds, words) => {
    expect(howLong(seconds)).toBe(words);
  });
});
