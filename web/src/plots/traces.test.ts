import { describe, expect, it } from "vitest";
import {
  alignedTimes,
  nearestIndex,
  niceTicks,
  oilLies,
  stepDip,
  stretchesAbove,
  ticks,
  tracePath,
} from "./traces";

describe("stretches above a limit", () => {
  it("begin and end where the values do, and close ones are one", () => {
    const times = [0, 1, 2, 3, 4, 5, 6, 7];
    const values = [0, 5, 5, 0, 5, 0, 0, 5];
    expect(stretchesAbove(times, values, 2, 1)).toEqual([
      [1, 2],
      [4, 4],
      [7, 7],
    ]);
    expect(stretchesAbove(times, values, 2, 2)).toEqual([
      [1, 4],
      [7, 7],
    ]);
    expect(stretchesAbove(times, values, 9, 2)).toEqual([]);
  });
});

describe("nearestIndex", () => {
  const times = [0, 1, 2, 4];
  it.each([
    [-5, 0],
    [0.4, 0],
    [0.6, 1],
    [2.9, 2],
    [3.1, 3],
    [99, 3],
  ])("of %f is %i", (time, index) => {
    expect(nearestIndex(times, time)).toBe(index);
  });
});

describe("tracePath", () => {
  it("keeps the highest and lowest value of each pixel", () => {
    const path = tracePath(
      [0, 0.1, 0.2, 1],
      [0, 5, -5, 1],
      (t) => t,
      (v) => v,
    );
    expect(path).toBe("M0 5.0L0 -5.0L1 1.0");
  });
  it("is empty without samples", () => {
    expect(
      tracePath(
        [],
        [],
        (t) => t,
        (v) => v,
      ),
    ).toBe("");
  });
});

describe("ticks", () => {
  it("are round and start at nil", () => {
    expect(ticks(81, 9)).toEqual([0, 10, 20, 30, 40, 50, 60, 70, 80]);
    expect(ticks(3, 3)).toEqual([0, 1, 2, 3]);
  });
});

describe("stepDip", () => {
  const dips = [{ worst_s: 20 }, { worst_s: 5 }, { worst_s: 40 }];
  it("goes in the order driven, not by rank", () => {
    expect(stepDip(dips, 0, 1)?.worst_s).toBe(5);
    expect(stepDip(dips, 5, 1)?.worst_s).toBe(20);
    expect(stepDip(dips, 39, -1)?.worst_s).toBe(20);
  });
  it("ends", () => {
    expect(stepDip(dips, 40, 1)).toBeNull();
    expect(stepDip([], 0, -1)).toBeNull();
  });
});

describe("oilLies", () => {
  it.each([
    [1.2, 0, "right"],
    [-1.2, 0.5, "left and rear"],
    [0, -1.1, "front"],
    [0.1, 0.1, "level"],
  ])("%f g to the left, %f g forward: %s", (side, fore, words) => {
    expect(oilLies(side, fore)).toBe(words);
  });
});

describe("alignedTimes", () => {
  it("lays corners over corners, whatever the pace and the length logged", () => {
    const lap = { time_s: [0, 1, 2, 3], distance_m: [0, 10, 20, 40] };
    const slow = { time_s: [0, 2, 4, 6], distance_m: [0, 11, 22, 44] };
    expect(alignedTimes(lap, slow)).toEqual([0, 1, 2, 3]);
    expect(alignedTimes(lap, { time_s: [0], distance_m: [0] })).toEqual([0]);
  });
});

describe("niceTicks", () => {
  it("steps by 1, 2 or 5", () => {
    expect(niceTicks(19.2, 6)).toEqual([0, 5, 10, 15]);
    expect(niceTicks(7.4, 6)).toEqual([0, 2, 4, 6]);
    expect(niceTicks(0.33, 5)).toEqual([0, 0.1, 0.2, 0.3]);
    expect(niceTicks(0, 5)).toEqual([0]);
  });
});
