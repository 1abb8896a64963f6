import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import type { Run } from "../../api/runs";
import { besidesOf, inStep, runName, shortName } from "./besides";

const run = (id: number, more: Partial<Run> = {}): Run =>
  ({
    id,
    build_id: 1,
    build_name: "Dunlin",
    state: id,
    revision: null,
    is_current: false,
    lap_id: 1,
    lap_name: "lap 7",
    cells: "quick",
    seed: 0,
    status: "finished",
    ...more,
  }) as Run;

describe("runs beside the one shown", () => {
  it("are finished, one of a kind, and not the one shown", () => {
    const runs = [
      run(9, { state: 3 }),
      run(8, { state: 3 }),
      run(7, { status: "failed" }),
      run(6, { seed: 2 }),
      run(5),
      run(4, { state: 3, cells: "fine" }),
    ];
    expect(besidesOf(runs, 5).map(({ id }) => id)).toEqual([9, 4]);
  });
  it("begin with revisions and what builds show now", () => {
    const named = run(2, { revision: { number: 1, name: "as raced", state: 2 } });
    const runs = [run(9), run(8), named, run(1, { is_current: true })];
    expect(besidesOf(runs, null).map(({ id }) => id)).toEqual([2, 1, 9, 8]);
    expect(runName(named)).toBe("Dunlin, R1 as raced · lap 7 · coarse");
    expect(shortName(run(9))).toBe("Dunlin, state 9");
  });
});

describe("in step", () => {
  const lap = (lapId: number, pace: number): Schemas["LapForecastOut"] =>
    ({
      lap_id: lapId,
      duration_s: 10 * pace,
      samples: {
        time_s: Array.from({ length: 11 }, (_, n) => n * pace),
        distance_m: Array.from({ length: 11 }, (_, n) => 50 * n),
      },
    }) as Schemas["LapForecastOut"];
  it("is the same time of the same lap", () => {
    expect(inStep(lap(1, 1), lap(1, 1), 4.2)).toBe(4.2);
    expect(inStep(lap(1, 1), lap(1, 1), 12)).toBe(10);
  });
  it("is the same place of another lap", () => {
    expect(inStep(lap(1, 1), lap(2, 2), 4)).toBeCloseTo(8);
    expect(inStep(lap(1, 1), lap(2, 2), 99)).toBeCloseTo(20);
  });
});
