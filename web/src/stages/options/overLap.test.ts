import { describe, expect, it } from "vitest";
import { stretchesRun, tracedPath } from "./overLap";

const TIMES = [0, 0.1, 0.2, 5, 5.1];

describe("a remedy over the lap", () => {
  it("is told apart by its windows", () => {
    expect(stretchesRun(TIMES)).toEqual([
      [0, 0.2],
      [5, 5.1],
    ]);
    expect(stretchesRun([])).toEqual([]);
    // both sides of the gap that two windows leave
    expect(stretchesRun([0, 0.25])).toHaveLength(1);
    expect(stretchesRun([0, 0.26])).toHaveLength(2);
  });

  it("draws no line where nothing was run", () => {
    const path = tracedPath(
      TIMES,
      [4, 3, 2, 4, 4],
      (time) => time * 10,
      (value) => value,
    );
    expect(path).toBe("M0.0 4.0L1.0 3.0L2.0 2.0M50.0 4.0L51.0 4.0");
  });
});
