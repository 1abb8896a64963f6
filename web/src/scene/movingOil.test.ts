import { describe, expect, it } from "vitest";
import type { OilFrames } from "../api/frames";
import { oilSkin } from "./movingOil";

/** A box of 4 x 3 x 4 cells of 10 mm, full to a height given in cells. */
function box(level: number): OilFrames {
  const line = (count: number): Float64Array =>
    Float64Array.from({ length: count + 1 }, (_, n) => 10 * n);
  const cells = Int32Array.from({ length: 48 }, (_, n) => n);
  const filling = Uint8Array.from({ length: 48 }, (_, n) =>
    Math.round(200 * Math.min(1, Math.max(0, level - (n % 4)))),
  );
  return { faces: [line(4), line(3), line(4)], cells, rate: 25, count: 1, filling: () => filling };
}

const heights = (points: Float32Array): number[] =>
  [...points].filter((_, n) => n % 3 === 2).sort((a, b) => a - b);

describe("the skin of the oil", () => {
  it("is level where the oil is", () => {
    const { surface } = oilSkin(box(2.5), 0, null);
    const found = heights(surface.positions);
    expect(found[0]).toBeCloseTo(found.at(-1) ?? 0, 5);
    expect(found[0]).toBeCloseTo(25, 5);
  });
  it("reaches the walls and the floor, and not beyond", () => {
    const { body } = oilSkin(box(2.5), 0, null);
    const x = [...body.positions].filter((_, n) => n % 3 === 0);
    expect(Math.min(...x)).toBe(0);
    expect(Math.max(...x)).toBe(40);
    expect(heights(body.positions)[0]).toBe(0);
  });
  it("ends on the cut, wherever it goes through the cells", () => {
    for (const level of [18, 20, 22.5]) {
      const { body } = oilSkin(box(2.5), 0, { normal: [1, 0, 0], level });
      expect(Math.max(...[...body.positions].filter((_, n) => n % 3 === 0))).toBe(level);
    }
    const { body } = oilSkin(box(2.5), 0, { normal: [0, -1, 0], level: -12 });
    expect(Math.min(...[...body.positions].filter((_, n) => n % 3 === 1))).toBe(12);
  });
  it("stays above a floor that cuts through the cells", () => {
    const ramp = (x: number): number => 5 + 0.5 * x;
    const { body } = oilSkin(box(2.5), 0, null, ramp);
    for (let n = 0; n < body.positions.length; n += 3)
      expect(body.positions[n + 2]).toBeGreaterThanOrEqual(ramp(body.positions[n] ?? 0) - 1e-3);
  });
  it("is nothing when there is no oil", () => {
    const { surface, body } = oilSkin(box(0), 0, null);
    expect(surface.positions.length + body.positions.length).toBe(0);
  });
});
