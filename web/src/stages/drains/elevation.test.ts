import { describe, expect, it } from "vitest";
import type { Drain } from "../../api/drains";
import { DRAIN, LEVEL } from "../../testing/drains";
import { BOX as DRAWING } from "../../testing/drawings";
import { cellsOf, placeOn, risingStretch, seenFrom, spare, upOnPage, type Now } from "./elevation";

const upright = { ...DRAWING, lean_right_deg: 0, nose_up_deg: 0 };

describe("a drain in elevation", () => {
  it("has what is there less what is needed to spare", () => {
    expect(spare(LEVEL)).toBe(60);
  });

  it("is seen with the engine's left on the left, upward up the page", () => {
    expect(seenFrom(upright, "front", [0, 50, 20])).toEqual([-50, -20]);
    expect(seenFrom(upright, "side", [50, 0, 20])).toEqual([-50, -20]);
    const [u, v] = upOnPage(upright, "front", [0, 0.6, 0.8]);
    expect(u).toBeCloseTo(-0.6);
    expect(v).toBeCloseTo(-0.8);
  });

  it("has its oil on the lower side of the line, as deep as it is filled", () => {
    const [first] = cellsOf(upright, DRAIN, LEVEL);
    const oil = first?.oil;
    expect(oil).not.toBeNull();
    const ys = oil?.map(([, v]) => v) ?? [];
    const outline = first?.outline.map(([, v]) => v) ?? [];
    expect(Math.max(...ys)).toBeCloseTo(Math.max(...outline)); // page's v is downward
    expect(first?.full).toBe(false);
  });

  it("knows what rises under a load that nothing rises under at rest", () => {
    const rests = cellsOf(upright, DRAIN, LEVEL);
    expect(risingStretch(DRAIN, rests)).toBeNull();
    const thrown: Now = { ...LEVEL, up: [0, 0.9, 0.436] };
    const rising = risingStretch(DRAIN, cellsOf(upright, DRAIN, thrown));
    expect(rising?.lengthMm).toBeGreaterThan(50);
  });

  it("is put on the sheet whole, at one scale", () => {
    const { place, scale } = placeOn(upright, DRAIN, 800, 400, {
      left: 40,
      right: 200,
      top: 20,
      bottom: 40,
    });
    const spots = [...DRAIN.points_mm, DRAIN.seal_mm].map((p) =>
      place(seenFrom(upright, "front", p)),
    );
    for (const [x, y] of spots) {
      expect(x).toBeGreaterThan(30);
      expect(x).toBeLessThan(610);
      expect(y).toBeGreaterThan(10);
      expect(y).toBeLessThan(370);
    }
    const [a, b] = [place([0, 0]), place([100, 0])];
    expect(b[0] - a[0]).toBeCloseTo(100 * scale);
  });

  it("draws nothing where nothing is wet", () => {
    const dry: Drain = DRAIN;
    const cells = cellsOf(upright, dry, { ...LEVEL, fill: [0, 0, 0] });
    expect(cells.every(({ oil }) => oil === null)).toBe(true);
  });
});
