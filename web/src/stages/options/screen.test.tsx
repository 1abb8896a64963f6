// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/options";
import { CommandProvider } from "../../parts/commands";
import { SettingsContext, type Settings } from "../../parts/settings";
import { DUNLIN_BUILD } from "../../testing/documents";
import { LATEST, OPTIONS, rowOf, standingOf, studyOf } from "../../testing/options";
import { SETTINGS } from "../../testing/settings";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { optionsTable } from "./optionsTable";
import { OptionsScreen } from "./OptionsScreen";
import { useOptionsState } from "./state";

const idle = { isPending: false, isSuccess: false, error: null };
const begin = vi.fn();
const cancel = vi.fn();
const apply = vi.fn();
const price = vi.fn();
const hours = vi.fn();
const overLap = vi.fn();
const go = vi.fn();

function served(
  latest: object | null,
  more: { error?: Error } = {},
  settings: Settings = SETTINGS,
): HTMLElement {
  vi.spyOn(api, "useOptions").mockReturnValue({
    data: latest ?? undefined,
    error: more.error ?? null,
    refetch: vi.fn(),
  } as never);
  vi.spyOn(api, "useBeginStudy").mockReturnValue({
    ...idle,
    mutate: begin,
    mutateAsync: begin,
  } as never);
  vi.spyOn(api, "useCancelStudy").mockReturnValue({ ...idle, mutate: cancel } as never);
  vi.spyOn(api, "useApplyRemedy").mockReturnValue({ ...idle, mutate: apply } as never);
  vi.spyOn(api, "useSetPrice").mockReturnValue({ ...idle, mutateAsync: price } as never);
  vi.spyOn(api, "useSetHours").mockReturnValue({ ...idle, mutateAsync: hours } as never);
  overLap.mockReturnValue({ data: undefined, error: null, isFetching: false });
  vi.spyOn(api, "useOverLap").mockImplementation(overLap as never);
  vi.spyOn(api, "useRemedy").mockReturnValue({
    data: { key: "x", title: "", words: "", differences: [] },
    error: null,
    isFetching: false,
  } as never);
  return showInBuild(
    <SettingsContext value={settings}>
      <CommandProvider>
        <OptionsScreen />
      </CommandProvider>
    </SettingsContext>,
    viewOf({ go, build: { ...DUNLIN_BUILD, state: 1 } }),
  ).container;
}

afterEach(() => {
  vi.restoreAllMocks();
  [begin, cancel, apply, price, hours, go].forEach((each) => each.mockReset());
});

describe("a remedy laid over the lap", () => {
  const LAID: api.OverLap = {
    lap: "lap 7",
    duration_s: 80,
    own: { time_s: [0, 0.1, 0.2, 80], bar: [4, 1.5, 4, 4], gas: [0, 0.9, 0, 0] },
    remedy: { time_s: [0, 0.1, 40, 40.1], bar: [4, 3.4, 4, 4], gas: [0, 0, 0, 0] },
    rung_words: "moving oil, worst windows",
    dry_above: 0.5,
  };

  it("is asked for when it is opened, and draws both pressures and the dry stretches", async () => {
    served(LATEST);
    expect(overLap.mock.lastCall?.[1]).toBeNull();
    overLap.mockReturnValue({ data: LAID, error: null, isFetching: false });
    await userEvent.click(screen.getByText("Lay it over the lap"));
    expect(overLap.mock.lastCall?.[1]).toBe("gates_2");
    const plot = screen.getByRole("img", { name: /Gallery pressure over lap 7/ });
    expect(plot.querySelectorAll("rect")).toHaveLength(1);
    expect(screen.getByText(/between its windows nothing was run/)).toBeTruthy();
  });

  it("says why there is nothing to lay", async () => {
    served(LATEST);
    overLap.mockReturnValue({ error: new Error("nothing was run yet"), isFetching: false });
    await userEvent.click(screen.getByText("Lay it over the lap"));
    expect(screen.getByText("nothing was run yet")).toBeTruthy();
  });
});

describe("the Options screen", () => {
  it("asks for a lap first, and then for the study", async () => {
    served({ study: null, has_lap: false });
    await userEvent.click(screen.getByRole("button", { name: "Import a lap" }));
    expect(go).toHaveBeenCalledWith("loads");
    expect(screen.queryByRole("button", { name: "Try the remedies" })).toBeNull();
  });

  it("begins a study with nothing switched off", async () => {
    served({ study: null, has_lap: true });
    await userEvent.click(screen.getByRole("button", { name: "Try the remedies" }));
    expect(begin).toHaveBeenCalledWith({ off: [], own: [] });
  });

  it("says what could not be read", () => {
    served(null, { error: new Error("The server is away.") });
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
  });

  it("shows the smallest that holds first, with its proof and its caution", () => {
    const page = served(LATEST);
    const rows = [...page.querySelectorAll("[data-option]")];
    expect(rows.map((row) => row.getAttribute("data-option"))).toEqual(["gates_2", "oil_1"]);
    const panel = screen.getByRole("region", { name: "Remedy B" });
    expect(panel.textContent).toContain("B holds, and is the smallest");
    expect(panel.textContent).toContain("the mouth runs dry 27 times a lap");
    expect(within(panel).getByText("oil 15 °C hotter").closest("li")?.textContent).toContain(
      "does not, 56 %",
    );
    expect(page.textContent).toContain("1 does not apply to this build");
    expect(wordsIn(page)).toContain("16 mm in the exhaust");
  });

  it("shows the remedy that is picked, in the table or on the plot", async () => {
    const page = served(LATEST);
    await userEvent.click(screen.getByRole("button", { name: /^A · Remedy oil_1: does not hold/ }));
    expect(wordsIn(screen.getByRole("region", { name: "Remedy A" }))).toContain(
      "Without pressure for 2.2 s a lap.",
    );
    await userEvent.click(screen.getByRole("button", { name: /^B, Remedy gates_2: dry 5.6 s/ }));
    expect(screen.getByRole("region", { name: "Remedy B" })).toBeTruthy();
    expect(page.querySelectorAll("[aria-pressed=true][data-option]")).toHaveLength(1);
  });

  it("tells a remedy's words in the units shown", async () => {
    const words = "Down to 2 bar.";
    const row = rowOf("oil_1", "A", {
      standing: standingOf({ words, lies: "12 mm over the floor" }),
      worse: "25 mm less to the ground",
    });
    const options = { ...OPTIONS, rows: [row, ...OPTIONS.rows.slice(1)] };
    const us = { ...SETTINGS, system: "us" as const };
    const page = served({ study: studyOf({ options }), has_lap: true }, {}, us);
    await userEvent.click(screen.getByRole("button", { name: /^A · Remedy oil_1/ }));
    for (const said of ["Down to 29 psi.", "0.47 in over the floor", "0.98 in less to the ground"])
      expect(wordsIn(page)).toContain(said);
    expect(wordsIn(page)).not.toContain("25 mm");
  });

  it("makes a remedy a revision, only of the build as it stands", async () => {
    served(LATEST);
    await userEvent.click(screen.getByRole("button", { name: "Make it a revision" }));
    expect(apply).toHaveBeenCalledWith("gates_2");
  });

  it("does not apply what was tried on another state", () => {
    served({ study: studyOf({ state: 7, is_current: false }), has_lap: true });
    const button = screen.getByRole("button", { name: "Make it a revision" });
    expect((button as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText("Of the build as it was")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Try on it as it stands" })).toBeTruthy();
  });

  it("shows how far a study is and ends it", async () => {
    const progress = {
      ...studyOf().progress,
      status: "running" as const,
      trials_done: 3,
      now: ["Gates: moving oil, worst windows"],
    };
    const options = {
      ...OPTIONS,
      choice: { ...OPTIONS.choice, key: null, words: "None is known to hold yet." },
      tried: 1,
    };
    const page = served({ study: studyOf({ progress, options }), has_lap: true });
    expect(screen.getByRole("status").textContent).toContain("1 of 2 remedies decided");
    expect(page.textContent).toContain("None is known to hold yet.");
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(cancel).toHaveBeenCalled();
  });

  it("waits while the remedies are worked out, and says why a study failed", () => {
    const progress = { ...studyOf().progress, status: "waiting" as const, ready: false };
    served({ study: studyOf({ progress, options: null }), has_lap: true });
    expect(screen.getAllByRole("status")[0]?.textContent).toContain("Working the remedies out");
  });

  it("lets prices and hours be typed over, and refuses what is none", async () => {
    price.mockResolvedValue({});
    hours.mockResolvedValue({});
    served(LATEST);
    const cost = screen.getByLabelText("Cost of one: engine oil");
    await userEvent.clear(cost);
    await userEvent.type(cost, "11.5{Enter}");
    expect(price).toHaveBeenCalledWith({ key: "oil", cost: 11.5, lead_days: 0 });
    const time = screen.getByLabelText("Hours of one: pour in oil, run, dip again");
    await userEvent.clear(time);
    await userEvent.type(time, "-1{Enter}");
    expect(screen.getByText(/a figure of nil or more/)).toBeTruthy();
    expect(hours).not.toHaveBeenCalled();
    await userEvent.clear(time);
    await userEvent.type(time, "{Enter}");
    expect(hours).toHaveBeenCalledWith({ key: "top_up", hours: null });
  });

  it("tries what is left on and what the builder puts on the list", async () => {
    begin.mockResolvedValue({});
    served(LATEST);
    await userEvent.click(screen.getByRole("button", { name: "What is tried" }));
    await userEvent.click(screen.getByLabelText("Remedy oil_1"));
    await userEvent.type(screen.getByLabelText("Its name"), "Gates and a litre");
    await userEvent.click(screen.getByRole("button", { name: "Add this change" }));
    await userEvent.selectOptions(screen.getByLabelText("A change"), "fit_gates");
    await userEvent.click(screen.getByRole("button", { name: "Add this change" }));
    await userEvent.click(screen.getByRole("button", { name: "Put it on the list" }));
    await userEvent.click(screen.getByRole("button", { name: "Try these" }));
    const [wanted] = begin.mock.calls[0] as [{ off: string[]; own: { acts: object[] }[] }];
    expect(wanted.off).toEqual(["oil_1"]);
    expect(wanted.own).toHaveLength(1);
    expect(wanted.own[0]?.acts).toEqual([
      { kind: "refill", to_l: "7 L" },
      {
        kind: "fit_gates",
        gates: 3,
        leaf: "rubber",
        lid: true,
        top_depth_mm: null,
        beside_mm: "86 mm",
      },
    ]);
  });

  it("says why a list was refused and keeps it", async () => {
    begin.mockRejectedValue(new Error("waits behind 3 studies"));
    served(LATEST);
    await userEvent.click(screen.getByRole("button", { name: "What is tried" }));
    await userEvent.click(screen.getByRole("button", { name: "Try these" }));
    expect(screen.getByRole("alert").textContent).toContain("waits behind 3 studies");
    expect(screen.getByRole("button", { name: "Try these" })).toBeTruthy();
  });

  it("plans more oil pour by pour, and where to stop", async () => {
    vi.spyOn(api, "useOverfill").mockReturnValue({
      data: {
        step_l: 0.25,
        mark_l: 6.2,
        steps: [
          { total_l: 6.45, crank_mm: 31, touches_s: 1.2, dry_s: 8, stop: "" },
          { total_l: 6.7, crank_mm: 2, touches_s: 3, dry_s: 7, stop: "standing oil would be 2 mm" },
        ],
        look_at: ["Dip."],
      },
      error: null,
      isFetching: false,
    } as never);
    const page = served(LATEST);
    await userEvent.click(screen.getByRole("button", { name: /^A · Remedy oil_1/ }));
    await userEvent.click(screen.getByText("A measured trial of more oil"));
    expect(page.textContent).toContain("stop: standing oil would be 2 mm");
    expect(page.textContent).toContain("1.2 s");
  });

  it("has all figures as a table", () => {
    const table = optionsTable(OPTIONS);
    expect(table.rows).toHaveLength(3);
    expect(table.rows.every((row) => row.length === table.headings.length)).toBe(true);
    expect(table.rows[2]?.[2]).toBe("does not apply");
  });
});

function Rail(): string {
  const { mark, word } = useOptionsState();
  return `${mark}: ${word}`;
}

describe("the rail", () => {
  const told = (latest: object): string => {
    vi.spyOn(api, "useOptions").mockReturnValue({ data: latest } as never);
    return showInBuild(<Rail />).container.textContent;
  };
  it("says what holds, how far it is, and when it is of before", () => {
    expect(told(LATEST)).toBe("good: B holds");
    expect(told({ study: null, has_lap: true })).toBe("nothing: none tried");
    expect(told({ study: studyOf({ is_current: false }) })).toBe("started: of before");
    const none = { ...OPTIONS, choice: { ...OPTIONS.choice, key: null } };
    expect(told({ study: studyOf({ options: none }) })).toBe("bad: none holds");
    const progress = { ...studyOf().progress, status: "running" as const };
    expect(told({ study: studyOf({ progress }) })).toBe("started: 2 of 2");
  });
});
