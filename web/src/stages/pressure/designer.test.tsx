// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/pressure";
import type { BottleMap, PressureStage, Trial, Tune } from "../../api/pressure";
import { STAGE } from "../../testing/pressure";
import { showInBuild, viewOf } from "../../testing/view";
import { BottleStop } from "./BottleStop";
import { Designer } from "./Designer";
import { Givings } from "./Givings";

const BOTTLE = STAGE.bottle as NonNullable<PressureStage["bottle"]>;
const TRIAL: Trial = {
  words: "accumulator, 2 L, charged to 2.4 bar",
  act: {
    kind: "tune_accumulator",
    typed: {},
    fill_up: true,
    volume_l: 2,
    precharge_bar: 2.4,
  },
  pressure: { ...STAGE.pressure, lowest_bar: 3.2, dips: [], under_s: 0 },
  bottle: BOTTLE,
  oil_added_l: 0.6,
  oil_apart_l: 0,
  draw_apart_l_min: 3.4,
  is_like: false,
};
const MAP: BottleMap = {
  volumes_l: [1, 2],
  precharges_bar: [1, 2, 3],
  lowest_bar: [
    [2, 2.4, 2.2],
    [2.5, 2.9, 3.1],
  ],
  under_s: [
    [1, 1, 1],
    [1, 0.5, 0],
  ],
};

/** What is asked of the server while the page is used. */
function served(): { asked: Tune[]; trial: ReturnType<typeof vi.spyOn> } {
  const asked: Tune[] = [];
  const answer = (data: unknown) => ({ data, error: null, isFetching: false });
  vi.spyOn(api, "useBottleMap").mockReturnValue(answer(MAP) as never);
  const trial = vi.spyOn(api, "useTrial").mockImplementation((_, __, tune) => {
    if (tune) asked.push(tune);
    return answer(TRIAL) as never;
  });
  return { asked, trial };
}

function shown(stage: PressureStage): ReturnType<typeof viewOf> {
  const view = viewOf({
    edit: { mutateAsync: vi.fn().mockResolvedValue({}), reset: vi.fn(), isPending: false } as never,
  });
  showInBuild(<Designer stage={stage} runId={4} onTime={vi.fn()} />, view);
  return view;
}

const bare: PressureStage = { ...STAGE, bottle: null, other_check: null, stopped: null };

afterEach(() => {
  vi.restoreAllMocks();
});

describe("the accumulator's designer", () => {
  it("tries one where there is none, and fits what is shown", async () => {
    served();
    const view = shown(bare);
    expect(screen.getByRole("heading", { name: "Try an accumulator" })).toBeTruthy();
    expect(screen.getByText(/no dip in this estimate/)).toBeTruthy();
    expect(screen.getByText("Oil to add, once").nextSibling?.textContent).toBe("0.6 L");
    await userEvent.click(screen.getByRole("button", { name: "Fit this bottle" }));
    expect(view.edit.mutateAsync).toHaveBeenCalledWith({
      kind: "act",
      act: TRIAL.act,
      system: "metric",
    });
  });
  it("never says that an estimate holds, and says what decides", () => {
    served();
    shown(bare);
    expect(screen.getByText(/its own run decides/)).toBeTruthy();
    expect(screen.queryByText(/holds$/)).toBeNull();
  });
  it("asks for what is typed with its unit", async () => {
    const { asked } = served();
    shown(bare);
    const field = screen.getByLabelText("Pre-charge, at 20 °C");
    await userEvent.clear(field);
    await userEvent.type(field, "35 psi{Enter}");
    expect(asked.at(-1)).toEqual({ volume_l: 2, precharge_bar: "35 psi" });
  });
  it("offers the map's best charge for the size", async () => {
    const { asked } = served();
    shown(bare);
    await userEvent.click(screen.getByRole("button", { name: /^Try 3.0 bar/ }));
    expect(asked.at(-1)).toEqual({ volume_l: 2, precharge_bar: 3 });
  });
  it("says in place what the server refuses", () => {
    served();
    vi.spyOn(api, "useTrial").mockReturnValue({
      data: undefined,
      error: new Error("volume_l: must be above 0"),
      isFetching: false,
    } as never);
    shown(bare);
    expect(screen.getByRole("alert").textContent).toContain("must be above 0");
    expect(screen.getByRole("button", { name: "Fit this bottle" })).toHaveProperty(
      "disabled",
      true,
    );
  });
});

describe("what the bottle gives", () => {
  it("is told dip by dip, and each leads there", async () => {
    const onTime = vi.fn();
    showInBuild(<Givings bottle={BOTTLE} onTime={onTime} />);
    const row = screen.getByRole("row", { name: /corner 2/ });
    expect(row.textContent).toContain("0.7 of 1.0");
    await userEvent.click(within(row).getByRole("button"));
    expect(onTime).toHaveBeenCalledWith(1.5);
  });
  it("may be nothing, or all that it has", () => {
    const [giving] = BOTTLE.givings;
    const { rerender } = showInBuild(
      <Givings bottle={{ ...BOTTLE, givings: [] }} onTime={vi.fn()} />,
    );
    expect(screen.getByText(/gives nothing/)).toBeTruthy();
    const empty = { ...BOTTLE, givings: giving ? [{ ...giving, ran_empty: true }] : [] };
    rerender(<Givings bottle={empty} onTime={vi.fn()} />);
    expect(screen.getByText("ran empty")).toBeTruthy();
  });
});

describe("a valve left open", () => {
  const words = (stage: PressureStage): string =>
    showInBuild(<BottleStop stage={stage} />).container.textContent;
  it("is told in litres, level and where that is", () => {
    const said = words(STAGE);
    expect(said).toContain("1.0 L runs into the sump: 103 to 118 mm");
    expect(said).toContain("17 over the full mark, 9 under the crank");
    expect(said).toContain("while the pressure is high");
    expect(said).toContain("at speed it keeps 1.0 L, at idle 0.0 L");
  });
  it("may reach the crank, or be over the rail", () => {
    const stopped = STAGE.stopped as NonNullable<PressureStage["stopped"]>;
    const open = { ...stopped.left_open, under_crank_mm: -4, over_mark_mm: null };
    expect(words({ ...STAGE, stopped: { ...stopped, left_open: open } })).toContain(
      "4 up into the crank's sweep",
    );
    const over = { ...open, level_mm: null, under_crank_mm: null };
    expect(words({ ...STAGE, stopped: { ...stopped, left_open: over } })).toContain(
      "more than pan and skirt hold",
    );
  });
  it("brings the cautions of a pressure vessel", () => {
    expect(words(STAGE)).toMatch(/pressure vessel.*never over its rating.*class rules.*gear lever/);
  });
});
