// @vitest-environment jsdom
import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/learning";
import { DUNLIN_BUILD } from "../../testing/documents";
import { SETTINGS } from "../../testing/settings";
import { showInBuild, viewOf } from "../../testing/view";
import { cautionsOf, knownOf, lapsWords, placesOf, sharesWords, shownFigure } from "./learnedWords";
import { WhatItSays } from "./WhatItSays";

const figure = (key: string, given: Partial<api.FigureTold> = {}): api.FigureTold => ({
  key,
  words: `figure of ${key}`,
  unit: "s",
  places: 2,
  before: 0.05,
  value: 0.09,
  low: 0.07,
  high: 0.11,
  tells: true,
  at_end: false,
  takes: true,
  by_lap_pct: [60, 40],
  ...given,
});
const lap = (name: string): api.Learning["laps"][number] => ({
  session: "s1",
  on: "2026-06-07",
  circuit: "Saltmarsh Ring",
  lap: name,
});
const TOLD: api.FitTold = {
  figures: [
    figure("held_more", { unit: "L", value: 0.25, low: 0.15, high: 0.35, before: 0 }),
    figure("lag"),
    figure("bearings", { tells: false, takes: false, unit: "%", places: 0 }),
    figure("gauge", { takes: false }),
  ],
  laps: [lap("Lap 2"), lap("Lap 7")],
  tied: [],
  leans: null,
  between_bar: 0.04,
  left_bar: 0.1,
  before_bar: 0.5,
};
const LEARNING: api.Learning = {
  id: 4,
  status: "finished",
  reason: "",
  laps: TOLD.laps,
  state: 3,
  asked_at: "2026-06-07T18:20:00Z",
  ended_at: "2026-06-07T18:24:00Z",
  runs: 12,
  runs_done: 12,
  share: 1,
  told: TOLD,
  taken_in: null,
  left: false,
};

const act = vi.fn();
const take = vi.fn();

function shown(learning: api.Learning | null, hasLaps = true, build = DUNLIN_BUILD): void {
  vi.spyOn(api, "useLearning").mockReturnValue({ data: { learning }, error: null } as never);
  vi.spyOn(api, "useLearningAct").mockReturnValue({ mutate: act, isPending: false } as never);
  vi.spyOn(api, "useTakeLearned").mockReturnValue({ mutate: take, isPending: false } as never);
  showInBuild(<WhatItSays hasLaps={hasLaps} />, viewOf({ build }));
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
  act.mockReset();
  take.mockReset();
});

describe("what the car says the numbers are", () => {
  it("is silent without laps, and asks them when it is told to", async () => {
    shown(null, false);
    expect(screen.queryByRole("region")).toBeNull();
    cleanup();
    shown(null);
    await userEvent.click(screen.getByRole("button", { name: "Ask the laps" }));
    expect(act).toHaveBeenCalledWith("ask");
  });

  it("says how far it is, and can be cancelled", async () => {
    shown({ ...LEARNING, status: "running", runs_done: 6, share: 0.5, told: null });
    expect(screen.getByRole("status").textContent).toContain("Run 7 of 12 over Lap 2 and Lap 7");
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(act).toHaveBeenCalledWith("cancel");
    cleanup();
    shown({ ...LEARNING, status: "running", share: 0.95, told: null });
    expect(screen.getByRole("status").textContent).toContain("Fitting");
    cleanup();
    shown({ ...LEARNING, status: "failed", reason: "no oil is left", told: null });
    expect(screen.getByText("no oil is left")).toBeTruthy();
  });

  it("takes over what is wanted of what can be taken", async () => {
    shown(LEARNING);
    expect(screen.getByRole("row", { name: /held_more/ }).textContent).toContain("0.25 ± 0.10 L");
    expect(screen.getByRole("row", { name: /bearings/ }).textContent).toContain("no more than");
    expect(screen.getAllByRole("checkbox")).toHaveLength(2);
    await userEvent.click(screen.getByRole("checkbox", { name: /lag/ }));
    await userEvent.click(screen.getByRole("button", { name: "Take 1" }));
    expect(take).toHaveBeenCalledWith({ learning_id: 4, keys: ["held_more"] });
    await userEvent.click(screen.getByRole("checkbox", { name: /lag/ }));
    await userEvent.click(screen.getByRole("button", { name: "Take them all" }));
    expect(take).toHaveBeenLastCalledWith({ learning_id: 4, keys: ["held_more", "lag"] });
    await userEvent.click(screen.getByRole("button", { name: "Leave as it was" }));
    expect(act).toHaveBeenCalledWith({ leave: 4 });
  });

  it("does not take what lies at the end of what was looked at", () => {
    const end = figure("held_more", { at_end: true, takes: false });
    shown({ ...LEARNING, told: { ...TOLD, figures: [end] } });
    expect(screen.getByText(/the truth may be beyond/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Take/ })).toBeNull();
  });

  it("offers nothing twice", () => {
    shown({ ...LEARNING, taken_in: 9 });
    expect(screen.getByText("Taken over in state 9")).toBeTruthy();
    expect(screen.queryByRole("checkbox")).toBeNull();
    cleanup();
    shown({ ...LEARNING, left: true });
    expect(screen.getByText("Left as it was.")).toBeTruthy();
  });

  it("tells what is known by the book, and lets it be guessed again", () => {
    const found = { value: 0.28, give: 0.08, source: "dips of 2 laps, 2026-06-07" };
    const learned = { up_top_more_l: found, sealing_pct: found, gauge_lag_s: found };
    const build = { ...DUNLIN_BUILD, document: { ...DUNLIN_BUILD.document, learned } };
    expect(knownOf(learned, SETTINGS.units, "metric").map(({ words }) => words)).toEqual([
      "Oil up top: 0.28 ± 0.08 L more than the circuit's parts hold, by dips of 2 laps, 2026-06-07",
      "Pump slips on gas under 0.3 ± 0.1 % of oil, by dips of 2 laps, 2026-06-07",
      "Gauge 0.28 ± 0.08 s late, by dips of 2 laps, 2026-06-07",
    ]);
    expect(knownOf(null, SETTINGS.units, "metric")).toEqual([]);
    shown(null, false, build);
    expect(screen.getAllByRole("button", { name: "Guess it again" })).toHaveLength(3);
  });
});

describe("a fit in words", () => {
  it("says what it leans on and cannot tell apart", () => {
    expect(cautionsOf(TOLD)).toEqual([]);
    const lap2 = lap("Lap 2");
    expect(cautionsOf({ ...TOLD, leans: lap2 })[0]).toContain("It leans on Lap 2 of 7 June");
    expect(cautionsOf({ ...TOLD, laps: [lap2], leans: lap2 })[0]).toContain("One lap is all");
    expect(cautionsOf({ ...TOLD, tied: ["a; b"] })[0]).toContain("Not to be told apart");
    expect(cautionsOf({ ...TOLD, left_bar: 0.4 })[0]).toContain("something else is at work");
    expect(sharesWords(TOLD)).toContain("Lap 2 60 % and Lap 7 40 %");
    expect(sharesWords({ ...TOLD, laps: [lap2] })).toBe("");
    expect(lapsWords([lap2, { ...lap2, on: "2026-05-24" }])).toMatch(
      /^Lap 2 of 7 June( 2026)?; Lap 2 of 24 May( 2026)?$/,
    );
  });

  it("is drawn from the least to the most of it and of what was thought", () => {
    const { was, low, at, high } = placesOf(figure("lag"));
    expect(was).toBeLessThan(low);
    expect((low + high) / 2).toBeCloseTo(at);
    expect(placesOf(figure("lag", { low: 1, high: 1, value: 1, before: 1 })).at).toBeCloseTo(
      0.08 / 0.16,
    );
  });

  it("shows litres in the units that are wanted", () => {
    const litres = figure("held_more", { unit: "L", value: 0.25, low: 0.15, high: 0.35 });
    expect(shownFigure(litres, SETTINGS.units, "metric")).toMatchObject({
      value: "0.25",
      give: "0.10",
    });
    expect(shownFigure(figure("lag"), SETTINGS.units, "metric")).toMatchObject({
      give: "0.02",
      unit: "s",
    });
  });
});
