import { describe, expect, it } from "vitest";
import { FLANGE } from "../../testing/job";
import { lastBolt, nearestBolt, nextBolt, ordered, pageOf } from "./bolts";
import { clockWords, leftWords, longWords, torqueOf } from "./words";

describe("the bolts of a flange", () => {
  it("come in the order of the pattern, pass by pass", () => {
    expect(nextBolt(FLANGE, [])).toEqual({ bolt: 1, pass: 1, number: 1 });
    expect(nextBolt(FLANGE, [[1, 1]])).toEqual({ bolt: 4, pass: 1, number: 2 });
    expect(lastBolt(FLANGE, [])).toBeNull();
    expect(lastBolt(FLANGE, [[1, 1], [1, 4]])).toEqual({ bolt: 4, pass: 1, number: 2 }); // prettier-ignore
    const all = FLANGE.pattern.map((bolt): [number, number] => [1, bolt]);
    expect(nextBolt(FLANGE, all)).toBeNull();
    expect(nextBolt({ ...FLANGE, passes: 2 }, all)).toEqual({ bolt: 1, pass: 2, number: 1 });
  });

  it("are caught by the thumb that comes nearest, within its reach", () => {
    const places = [[0, 0], [100, 0], [100, 80]] as const; // prettier-ignore
    expect(nearestBolt(places, [90, 12], 44)).toBe(1);
    expect(nearestBolt(places, [50, 40], 44)).toBeNull();
    expect(nearestBolt([], [0, 0], 44)).toBeNull();
  });

  it("lie with the nose to the left; the car's left at the head from below, at the foot from above", () => {
    const [front, rear, left] = [[200, 0], [0, 0], [100, 50]] as const; // prettier-ignore
    for (const isFromBelow of [true, false]) {
      const { place, height } = pageOf(FLANGE, 360, 300, isFromBelow);
      expect(place(front)[0]).toBeLessThan(place(rear)[0]);
      expect(place(left)[1] < height / 2).toBe(isFromBelow);
    }
  });

  it("are put into an own order, the last taken back by the same touch", () => {
    expect(ordered([2, 0], 1)).toEqual([2, 0, 1]);
    expect(ordered([2, 0], 0)).toEqual([2]);
    expect(ordered([2, 0], 2)).toEqual([2, 0]);
  });
});

describe("words of the job", () => {
  it("says how long, how long still, and when", () => {
    expect([longWords(0.25), longWords(1), longWords(1.1)]).toEqual(["15 min", "1 h", "1 h 06"]);
    expect(leftWords(4_360_000, 0)).toBe("1:12:40");
    expect(leftWords(90_000_000, 0)).toBe("1 d 1:00:00");
    expect(leftWords(0, 5)).toBe("0:00:00");
    const noon = new Date(2026, 6, 13, 12, 5).getTime();
    expect(clockWords(noon, noon)).toBe("12:05");
    expect(clockWords(noon, noon + 86_400_000)).toBe("13 Jul, 12:05");
  });

  it("reads a torque with its unit: 106 lbf in is 12.0 N m is 8.8 lbf ft", () => {
    expect(torqueOf("106 lbf in")).toBeCloseTo(11.976, 3);
    expect(torqueOf("8.83 lbf·ft")).toBeCloseTo(11.97, 2);
    expect(torqueOf("12,5")).toBe(12.5);
    expect(torqueOf("9 Nm")).toBe(9);
    expect([torqueOf("tight"), torqueOf("0"), torqueOf("3000")]).toEqual([null, null, null]);
  });
});
