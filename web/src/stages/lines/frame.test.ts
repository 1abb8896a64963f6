import { describe, expect, it } from "vitest";
import type { Point } from "../../drawing/geometry";
import { lineOf, endOf, STAGE } from "../../testing/lines";
import {
  drawnWay,
  firstWay,
  frameOf,
  fromPage,
  onGrid,
  numberPlaces,
  onPage,
  placesOf,
  withBend,
  type Spot,
} from "./frame";

const FRAME = frameOf(placesOf(STAGE.lines), 500, 420);

describe("the page", () => {
  it("has room for every place, in both views, to one scale", () => {
    for (const spot of placesOf(STAGE.lines)) {
      const [x, y] = onPage(FRAME, "plan", spot);
      const [, z] = onPage(FRAME, "side", spot);
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(500);
      expect(y).toBeGreaterThanOrEqual(FRAME.planTop);
      expect(y).toBeLessThan(FRAME.sideTop);
      expect(z).toBeGreaterThanOrEqual(FRAME.sideTop);
      expect(z).toBeLessThan(FRAME.height);
    }
  });

  it("has the nose at the left, the car's left below and up at the top", () => {
    const at = onPage(FRAME, "plan", [0, 0, 0]);
    expect(onPage(FRAME, "plan", [100, 0, 0])[0]).toBeLessThan(at[0]);
    expect(onPage(FRAME, "plan", [0, 100, 0])[1]).toBeGreaterThan(at[1]);
    expect(onPage(FRAME, "side", [0, 0, 50])[1]).toBeLessThan(onPage(FRAME, "side", [0, 0, 0])[1]);
  });

  it("comes back from the page, what a view does not show as it was", () => {
    const spot: Spot = [230, -120, 60];
    const plan = fromPage(FRAME, "plan", onPage(FRAME, "plan", spot), [0, 0, 77]);
    expect(plan.map(Math.round)).toEqual([230, -120, 77]);
    const side = fromPage(FRAME, "side", onPage(FRAME, "side", spot), [0, 55, 0]);
    expect(side.map(Math.round)).toEqual([230, 55, 60]);
  });

  it("is never without room, even for nothing at all", () => {
    const empty = frameOf([], 300, 300);
    expect(empty.scale).toBeGreaterThan(0);
    expect(empty.height).toBeLessThanOrEqual(300);
  });
});

describe("a way", () => {
  it("is held to the grid of the units in use", () => {
    expect(onGrid([10.4, -3.6, 0.2], "metric")).toEqual([10, -4, 0]);
    expect(onGrid([10.4, 0, 0], "us")[0]).toBeCloseTo(9.525, 1);
  });

  it("is drawn with its corners rounded while it is dragged", () => {
    const way = drawnWay(
      lineOf(1).points.map(({ at_mm, radius_mm }) => ({ at_mm: at_mm, radius_mm })),
    );
    expect(way[0]).toEqual([100, -150, 120]);
    expect(way.at(-1)).toEqual([400, -300, 120]);
    // leaves both legs along them, no further than half of either
    expect(way[1]).toEqual([100, -225, 120]);
    expect(way).toHaveLength(7);
    expect(way.some(([x, y]) => x === 100 && y === -300)).toBe(false);
  });

  it("keeps an elbow, and a corner whose legs have no length", () => {
    const elbow = drawnWay([
      { at_mm: [0, 0, 0], radius_mm: null },
      { at_mm: [10, 0, 0], radius_mm: null },
      { at_mm: [10, 10, 0], radius_mm: null },
    ]);
    expect(elbow).toHaveLength(3);
    const none = drawnWay([
      { at_mm: [0, 0, 0], radius_mm: null },
      { at_mm: [0, 0, 0], radius_mm: 50 },
      { at_mm: [10, 10, 0], radius_mm: null },
    ]);
    expect(none).toHaveLength(3);
  });

  it("begins from port to port as far as they are known", () => {
    const line = lineOf(1);
    expect(firstWay(line, STAGE.lines.pan_plan_mm).map(({ at_mm }) => at_mm)).toEqual([
      [100, -150, 120],
      [350, -150, 120],
    ]);
    const both = lineOf(1, {
      ends: [endOf("a"), endOf("b", { place_mm: [500, 0, 60] })],
    });
    expect(firstWay(both, []).at(-1)?.at_mm).toEqual([500, 0, 60]);
    const none = lineOf(1, {
      ends: [endOf("a", { place_mm: null }), endOf("b", { place_mm: null })],
    });
    expect(firstWay(none, STAGE.lines.pan_plan_mm)[0]?.at_mm).toEqual([410, 160, 80]);
  });

  it("gets a bend into a leg, of the least radius", () => {
    const points = [
      { at_mm: [0, 0, 0] as Spot, radius_mm: null },
      { at_mm: [100, 0, 0] as Spot, radius_mm: null },
    ];
    expect(withBend(points, 0, 124.2)[1]).toEqual({ at_mm: [50, 30, 0], radius_mm: 125 });
    expect(withBend(points, 1, 125)).toEqual(points);
  });
});

describe("numbers of lines", () => {
  const straight = (y: number): Point[] => Array.from({ length: 11 }, (_, n): Point => [n * 20, y]);

  it("stand in the middle, and off each other where lines lie on each other", () => {
    const [first, second, third] = numberPlaces([straight(0), straight(4), straight(100)]);
    expect(first).toEqual([100, 0]);
    expect(second).toEqual([80, 4].map((each, at) => (at === 0 ? 140 : each)));
    expect(third).toEqual([100, 100]);
  });

  it("stand as far off as can be where there is no room, and nowhere on what is not laid", () => {
    const short: Point[] = [
      [0, 0],
      [10, 0],
    ];
    const found = numberPlaces([short, short, []]);
    expect(found[1]).not.toEqual(found[0]);
    expect(found[2]).toBeNull();
  });
});
