import { describe, expect, it } from "vitest";
import type { Slosh } from "../api/queries";
import type { Moving } from "../api/runs";
import { atTimes, withMoving } from "./moving";

describe("values at other times", () => {
  it("lie straight between those there are", () => {
    expect(atTimes([0, 1, 2], [0, 10, 0], [0, 0.5, 1, 1.5, 2])).toEqual([0, 5, 10, 5, 0]);
  });
  it("stay at the ends beyond them", () => {
    expect(atTimes([0, 1], [3, 4], [-1, 5])).toEqual([3, 4]);
  });
  it("do with one value, and with none", () => {
    expect(atTimes([0], [7], [0, 1])).toEqual([7, 7]);
    expect(atTimes([], [], [0])).toEqual([0]);
  });
});

const verdict = (state: string) => ({ state, headline: state, sentence: state });
const SETTLED = {
  model_note: "settled oil",
  verdict: verdict("not_safe"),
  lap: {
    verdict: verdict("not_safe"),
    dry_s: 4.8,
    draws_air_s: 6,
    least_cover_mm: -20,
    least_cover_at_s: 3,
    dips: [{ rank: 1 }, { rank: 2 }],
    zones_l: [[1, 2, 3]],
    samples: { time_s: [0, 1, 2], cover_mm: [5, 5, 5], gas_share: [0, 0, 0], side_g: [1, 2, 3] },
  },
} as unknown as Slosh;
const MOVING = {
  note: "moving oil",
  verdict: verdict("caution"),
  mouths: [
    {
      name: "pickup",
      dry_s: 0,
      draws_air_s: 0.4,
      least_cover_mm: 2,
      least_cover_at_s: 1.5,
      dips: [],
      samples: { cover_mm: [10, 20], gas_share: [0, 0.2] },
    },
  ],
  samples: { time_s: [0, 2] },
} as unknown as Moving;

describe("the forecast with moving oil in it", () => {
  const told = withMoving(SETTLED, MOVING);

  it("is judged, above and of the lap, by the moving oil", () => {
    expect(told.verdict.state).toBe("caution");
    expect(told.lap?.verdict.state).toBe("caution");
    expect(told.model_note).toBe("moving oil");
    expect(told.lap).toMatchObject({ dry_s: 0, draws_air_s: 0.4, least_cover_mm: 2, dips: [] });
    expect(told.lap?.least_cover_at_s).toBe(1.5);
  });

  it("has its cover and gas at the lap's own times, and the loads as they were", () => {
    expect(told.lap?.samples.cover_mm).toEqual([10, 15, 20]);
    expect(told.lap?.samples.gas_share).toEqual([0, 0.1, 0.2]);
    expect(told.lap?.samples.side_g).toEqual([1, 2, 3]);
    expect(told.lap?.zones_l).toEqual([[1, 2, 3]]);
  });

  it("leaves a build without a lap as it is", () => {
    const bare = { ...SETTLED, lap: null };
    expect(withMoving(bare, MOVING)).toBe(bare);
  });
});
