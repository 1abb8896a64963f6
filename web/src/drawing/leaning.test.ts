import { describe, expect, it } from "vitest";
import type { Ring } from "./geometry";
import { filled, within } from "./leaning";

const SQUARE: Ring = [
  [0, 0],
  [10, 0],
  [10, 10],
  [0, 10],
];
const area = (ring: Ring): number =>
  Math.abs(
    ring.reduce((sum, [x, y], at) => {
      const [nextX, nextY] = ring[(at + 1) % ring.length] ?? [0, 0];
      return sum + x * nextY - nextX * y;
    }, 0) / 2,
  );

describe("what is wet", () => {
  it("is the part on one side of a line", () => {
    expect(area(within(SQUARE, 1, 0, 4))).toBeCloseTo(60);
    expect(within(SQUARE, 1, 0, 20)).toEqual([]);
    expect(area(within(SQUARE, 1, 1, -5))).toBeCloseTo(100);
  });

  it.each([0, 0.5, -1.5, 4])("fills a tank to its share, its surface leaning by %s", (slope) => {
    for (const share of [0.1, 0.5, 0.9])
      expect(area(filled(90, 200, share, slope))).toBeCloseTo(share * 90 * 200, 3);
  });

  it("leans toward where the oil is thrown", () => {
    const right = filled(90, 200, 0.4, 1);
    const highest = [...right].sort(([, one], [, other]) => one - other)[0];
    expect(highest?.[0]).toBeCloseTo(90);
  });
});
