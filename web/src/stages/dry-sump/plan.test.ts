import { describe, expect, it } from "vitest";
import type { Dry } from "../../api/dry";
import type { Point } from "../../drawing/geometry";
import { DRY } from "../../testing/dry";
import { flowPlan, SIZE, TANK } from "./plan";

type Piece = readonly [Point, Point];

const piecesOf = (line: readonly Point[]): Piece[] =>
  line.slice(1).map((to, at): Piece => [line[at] ?? to, to]);

/** Whether two pieces, each upright or level, meet inside. */
function cross([a, b]: Piece, [c, d]: Piece): boolean {
  const between = (value: number, one: number, other: number): boolean =>
    value > Math.min(one, other) + 0.1 && value < Math.max(one, other) - 0.1;
  const meets = (level: Piece, upright: Piece): boolean =>
    level[0][1] === level[1][1] &&
    upright[0][0] === upright[1][0] &&
    between(upright[0][0], level[0][0], level[1][0]) &&
    between(level[0][1], upright[0][1], upright[1][1]);
  return meets([a, b], [c, d]) || meets([c, d], [a, b]);
}

const placed = (places: readonly (readonly [number, number])[]): Dry => ({
  ...DRY,
  mouths: places.map(([x_mm, y_mm], at) => ({
    id: `m${at}`,
    name: `m${at}`,
    x_mm,
    y_mm,
    diameter_mm: 25,
  })),
  stages: places.map((_, at) => ({
    id: `s${at}`,
    name: `s${at}`,
    displacement_cm3: 10,
    drive_ratio: 0.5,
    mouths: [at],
  })),
});

const SUMPS: [string, Dry][] = [
  ["the demo's", DRY],
  ["two at the rear", placed([[20, -80], [20, 80]])], // prettier-ignore
  ["front and rear of both sides", placed([[380, -80], [380, 80], [20, -80], [20, 80]])], // prettier-ignore
  ["told from left to right", placed([[20, 80], [200, 0], [20, -80]])], // prettier-ignore
];

describe("the way of the oil on the sheet", () => {
  it("has the words of the pan under it and under the lines that go round it", () => {
    const plan = flowPlan(placed([[380, 0], [20, 0]])); // prettier-ignore
    const round = Math.max(...plan.suctions.flatMap(({ line }) => line.map(([, y]) => y)));
    expect(plan.lowest).toBeGreaterThan(plan.below);
    expect(round).toBeGreaterThanOrEqual(plan.lowest);
    const apart = flowPlan(placed([[20, -80], [20, 80]])); // prettier-ignore
    expect(apart.lowest).toBe(apart.below);
  });

  it.each(SUMPS)("leads every mouth to its stage without crossing: %s", (_, dry) => {
    const plan = flowPlan(dry);
    expect(plan.suctions).toHaveLength(dry.mouths.length);
    for (const [at, one] of plan.suctions.entries())
      for (const other of plan.suctions.slice(at + 1))
        for (const mine of piecesOf(one.line))
          for (const its of piecesOf(other.line)) expect(cross(mine, its)).toBe(false);
    for (const each of plan.suctions)
      expect(each.line.at(-1)?.[1]).toBe(plan.rows.find(({ stage }) => stage === each.stage)?.y);
  });

  it.each(SUMPS)("passes no mouth but its own: %s", (_, dry) => {
    const plan = flowPlan(dry);
    for (const each of plan.suctions)
      for (const { at, stage } of plan.mouths)
        if (stage !== each.stage)
          for (const [from, to] of piecesOf(each.line)) {
            const isLevel = from[1] === to[1];
            const isNear = isLevel
              ? Math.abs(from[1] - at[1]) < 12 &&
                at[0] > Math.min(from[0], to[0]) &&
                at[0] < Math.max(from[0], to[0])
              : Math.abs(from[0] - at[0]) < 12 &&
                at[1] > Math.min(from[1], to[1]) &&
                at[1] < Math.max(from[1], to[1]);
            expect(isNear).toBe(false);
          }
  });

  it.each(SUMPS)("stays on its sheet, stages above the pressure stage: %s", (_, dry) => {
    const plan = flowPlan(dry);
    const lines = [...plan.suctions, ...plan.outlets, ...plan.behind, plan.joined, plan.feed];
    for (const [x, y] of lines.flatMap(({ line }) => line)) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(SIZE.width);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(SIZE.height);
    }
    const ys = plan.rows.map(({ y }) => y);
    for (const [at, y] of ys.entries())
      expect((ys[at + 1] ?? plan.pressureY) - y).toBeGreaterThan(40);
  });

  it("puts the separator ahead of the cooler or after it, as they are", () => {
    const kinds = (change: Partial<Dry>): string[] =>
      flowPlan({ ...DRY, ...change }).way.map(({ kind }) => kind);
    const carried = DRY.carried;
    expect(carried).not.toBeNull();
    if (!carried) return;
    expect(kinds({ carried: { ...carried, order: "ahead" } })).toEqual(["separator", "cooler"]);
    expect(kinds({ carried: { ...carried, order: "after" } })).toEqual(["cooler", "separator"]);
    const tank = { ...DRY.tank, has_cooler: false };
    expect(kinds({ carried: { ...carried, order: "alone" }, tank })).toEqual(["separator"]);
    const bare = flowPlan({ ...DRY, carried: { ...carried, order: "none" }, tank });
    expect(bare.way).toEqual([]);
    expect(bare.joined.line.at(-1)?.[1]).toBeGreaterThan(TANK.y);
  });
});
