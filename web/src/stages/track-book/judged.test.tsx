// @vitest-environment jsdom
import { cleanup, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/judged";
import * as size from "../../parts/size";
import { JUDGED, TRACE } from "../../testing/judged";
import { show } from "../../testing/shown";
import { placed } from "./DipsMap";
import { lowestIn } from "./DipTrace";
import { firstDip, JudgedView } from "./JudgedView";
import { countWords, judgedTable, lateWords, placeMark } from "./judgedWords";

const asked: ({ lap: number; dip: number } | null)[] = [];
const judge = vi.fn();

beforeEach(() => {
  asked.length = 0;
  judge.mockReset();
  vi.spyOn(size, "useSize").mockReturnValue([vi.fn(), { width: 900, height: 600 }] as never);
  vi.spyOn(api, "useJudgedTrace").mockImplementation((_build, _session, at) => {
    asked.push(at);
    return { data: TRACE } as never;
  });
  vi.spyOn(api, "useJudge").mockReturnValue({ mutate: judge, isPending: false } as never);
});
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("a session's laps against the forecast", () => {
  it("shows the deepest miss first, and another when it is picked", async () => {
    show(<JudgedView judged={JUDGED} buildId={1} session="s1" />);
    expect(firstDip(JUDGED)).toMatchObject({ lap: 0, dip: 2 });
    expect(asked.at(-1)).toMatchObject({ lap: 0, dip: 2 });
    const grid = screen.getByLabelText("Lap by lap");
    await userEvent.click(
      within(grid).getByRole("button", { name: /Lap 2, corner 5, 41.0 s: hit/ }),
    );
    expect(asked.at(-1)).toEqual({ lap: 1, dip: 1 });
    await userEvent.click(
      screen.getByRole("button", { name: "1 L, corner 1: false alarm, 0 of 2 laps" }),
    );
    expect(asked.at(-1)).toEqual({ lap: 0, dip: 0 });
    expect(screen.getByText(/Out lap has no oil pressure/)).toBeTruthy();
  });

  it("looks for a forecast again where none was there", async () => {
    const bare = {
      ...JUDGED,
      forecast: null,
      count: { ...JUDGED.count, has_forecast: false },
    };
    show(<JudgedView judged={bare} buildId={1} session="s1" />);
    await userEvent.click(screen.getByRole("button", { name: "Look for a forecast again" }));
    expect(judge).toHaveBeenCalledWith({ lap_ids: [], lag_s: 0.05, forecast_anew: true });
  });
});

describe("what the marks stand for", () => {
  it("is counted and named", () => {
    expect(countWords(JUDGED).map(({ count, words }) => `${count} ${words}`)).toEqual([
      "1 hit, within 0.05 s",
      "1 miss, corner 8",
      "1 false alarm, corner 1",
    ]);
  });

  it("says a corner by number and hand, and how late", () => {
    expect(JUDGED.places.map(placeMark)).toEqual(["5 L", "8 L", "1 L"]);
    expect([lateWords(0.12), lateWords(-0.1), lateWords(null)]).toEqual(["+0.12 s", "−0.10 s", ""]);
  });

  it("reads every dip of every lap out", () => {
    expect(judgedTable(JUDGED).rows).toHaveLength(6);
  });
});

describe("drawing", () => {
  it("keeps the line on its sheet", () => {
    const { place, height } = placed(JUDGED.line_m, 400, 300);
    for (const point of JUDGED.line_m) {
      const [x, y] = place(point);
      expect(x).toBeGreaterThanOrEqual(33);
      expect(x).toBeLessThanOrEqual(367);
      expect(y).toBeGreaterThanOrEqual(33);
      expect(y).toBeLessThanOrEqual(height - 33);
    }
  });

  it("finds the lowest between two times", () => {
    expect(lowestIn([0, 1, 2, 3], [5, 2, 3, 0], 0.5, 2.5)).toBe(1);
    expect(lowestIn([0, 1], [5, 2], 8, 9)).toBe(0);
  });
});
