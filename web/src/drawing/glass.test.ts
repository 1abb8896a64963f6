import { describe, expect, it } from "vitest";
import type { Ring } from "./geometry";
import { bandRing, offsetLine, rounded, shares } from "./glass";

const area = (ring: Ring): number =>
  Math.abs(
    ring.reduce((sum, [u, v], index) => {
      const [a, b] = ring[(index + 1) % ring.length] ?? [0, 0];
      return sum + u * b - a * v;
    }, 0) / 2,
  );
const STRAIGHT = [
  [0, 0],
  [100, 0],
] as const;

describe("glass pipes", () => {
  it("have their left above as they go to the right", () => {
    expect(offsetLine(STRAIGHT, 5).map(([, v]) => v)).toEqual([-5, -5]);
    expect(offsetLine(STRAIGHT, -5).map(([, v]) => v)).toEqual([5, 5]);
  });
  it("keep their width round a corner", () => {
    const corner = [
      [0, 0],
      [100, 0],
      [100, 100],
    ] as const;
    expect(offsetLine(corner, 10)[1]).toEqual([110, -10]);
    expect(area(bandRing(corner, 10, -10))).toBeCloseTo(20 * 200, 6);
  });
  it("show oil and air by their shares of the width", () => {
    for (const gas of [0.25, 0.5, 0.9]) {
      const { oil, air } = shares(STRAIGHT, 14, gas, "left");
      expect(area(air ?? [])).toBeCloseTo(1400 * gas, 6);
      expect(area(oil ?? [])).toBeCloseTo(1400 * (1 - gas), 6);
    }
  });
  it("have the air on the side wanted", () => {
    const middle = (ring: Ring | null): number =>
      (ring ?? []).reduce((sum, [, v]) => sum + v, 0) / (ring?.length ?? 1);
    expect(middle(shares(STRAIGHT, 14, 0.3, "left").air)).toBeLessThan(0);
    expect(middle(shares(STRAIGHT, 14, 0.3, "right").air)).toBeGreaterThan(0);
  });
  it("show all of one and none of the other at the ends", () => {
    expect(shares(STRAIGHT, 14, 0, "left").air).toBeNull();
    expect(shares(STRAIGHT, 14, 0.004, "left").air).toBeNull();
    expect(shares(STRAIGHT, 14, 1, "left").oil).toBeNull();
  });
  it("are rounded at corners alone, and end where they end", () => {
    const line = rounded(
      [
        [0, 0],
        [50, 0],
        [50, 50],
      ],
      10,
    );
    expect(line[0]).toEqual([0, 0]);
    expect(line.at(-1)).toEqual([50, 50]);
    expect(line.some(([u, v]) => u === 50 && v === 0)).toBe(false);
    expect(rounded(STRAIGHT, 10)).toEqual(STRAIGHT);
  });
});
