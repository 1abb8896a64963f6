// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/drains";
import type { EditMutation } from "../../document/BuildContext";
import { CommandProvider } from "../../parts/commands";
import { SettingsContext } from "../../parts/settings";
import type { System } from "../../parts/units";
import { DRAIN, DRAINS } from "../../testing/drains";
import { SETTINGS } from "../../testing/settings";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { cans, hoursToFill } from "./BreathingPage";
import { DrainsScreen } from "./DrainsScreen";

const none = { data: undefined, error: null, isFetching: false };
const refetch = vi.fn();
const mutateAsync = vi.fn().mockResolvedValue({});

function served(answer: object, trial: object = none, system: System = "metric"): HTMLElement {
  vi.spyOn(api, "useDrains").mockReturnValue({ ...none, refetch, ...answer } as never);
  vi.spyOn(api, "useDrainTrial").mockReturnValue(trial as never);
  vi.spyOn(api, "useDrainsAt").mockReturnValue(none as never);
  const edit = { mutate: vi.fn(), mutateAsync, reset: vi.fn() } as unknown as EditMutation;
  return showInBuild(
    <QueryClientProvider
      client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}
    >
      <SettingsContext value={{ ...SETTINGS, system }}>
        <CommandProvider>
          <DrainsScreen />
        </CommandProvider>
      </SettingsContext>
    </QueryClientProvider>,
    viewOf({ edit }),
  ).container;
}

const TRIAL = {
  words: "drain of the turbo, breather 14 mm",
  run: "r20",
  spare_mm: 12,
  spare_at_s: 1,
  flooded_s: 0,
  back_ups: 0,
  there_mm: 38,
  needed_mm: 30,
  push_mm: 8,
  highest_mbar: 0.8,
  worst_mm: 12,
  worst_name: "drain of the turbo",
};

const PULLED = {
  run: "r20",
  component: "c14",
  name: "drain of the turbo",
  stage: "scavenge stage",
  foam: 0.4,
  rpm: [600, 6000],
  comes_l_min: [0.91, 3.1],
  sweeps_l_min: [1.2, 12],
  share: 0.758,
  share_at_rpm: 600,
  suction_kpa: 2.1,
  state: "good" as const,
};

afterEach(() => {
  vi.restoreAllMocks();
  mutateAsync.mockClear();
});

describe("the Drains screen", () => {
  it("says that the drains are being read, or why they cannot be", async () => {
    expect(served({}).textContent).toContain("Reading the drains…");
    const page = served({ error: new Error("circuit.components: must have a crankcase") });
    expect(page.textContent).toContain("must have a crankcase");
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(refetch).toHaveBeenCalled();
  });

  it("says by how much the worst drain is short, where, and for how long", () => {
    const page = served({ data: DRAINS });
    expect(wordsIn(page.querySelector("h1"))).toContain(
      "the drain of the turbo is 42 mm of head short",
    );
    expect(page.textContent).toContain("1.1 s");
    expect(page.textContent).toContain("in corner 3, right");
    expect(page.textContent).toContain("What holds it back at its worst: drain of the turbo");
  });

  it("says that what is shown is of the state before", () => {
    const page = served({ data: DRAINS, isPlaceholderData: true });
    expect(page.textContent).toContain("As it was before this change");
  });

  it("tries a remedy, says what it buys, and fits it", async () => {
    const page = served({ data: DRAINS }, { ...none, data: TRIAL, isPlaceholderData: false });
    await userEvent.click(screen.getByRole("button", { name: "Try a 14 mm breather" }));
    expect(page.querySelector("[data-trial]")?.textContent).toContain(
      "12 mm of head to spare at the least",
    );
    await userEvent.click(screen.getByRole("button", { name: "Set it so" }));
    expect(mutateAsync).toHaveBeenCalledWith(
      expect.objectContaining({
        kind: "act",
        act: { kind: "tune_drain", run: "r20", opening_mm: 14 },
      }),
    );
  });

  it("asks where a drain is before it says anything of it", async () => {
    const unplaced = [
      {
        run: "r20",
        component: "c14",
        kind: "turbo" as const,
        name: "drain of the turbo",
        wants: ["where oil leaves turbo", "where the line comes in"],
      },
    ];
    const page = served({ data: { ...DRAINS, drains: [], unplaced } });
    expect(page.textContent).toContain("A drain wants its places first");
    const place = screen.getByRole("button", { name: "Place it" });
    expect(place.hasAttribute("disabled")).toBe(true);
    for (const [at, value] of ["96", "-196", "150", "72", "-112", "10"].entries())
      await userEvent.type(screen.getAllByRole("textbox")[at] as HTMLElement, value);
    await userEvent.click(place);
    expect(mutateAsync).toHaveBeenCalledWith(
      expect.objectContaining({
        act: {
          kind: "tune_drain",
          run: "r20",
          outlet_mm: ["96", "-196", "150"],
          entry_mm: ["72", "-112", "10"],
        },
      }),
    );
  });

  it("does not ask again while what was told is worked out", () => {
    const unplaced = [
      {
        run: "r20",
        component: "c14",
        kind: "turbo" as const,
        name: "drain of the turbo",
        wants: ["where the line comes in"],
      },
    ];
    const page = served({
      data: { ...DRAINS, drains: [], unplaced },
      isPlaceholderData: true,
    });
    expect(page.textContent).toContain("As it was before this change; being worked out anew.");
    expect(screen.getByRole("button", { name: "Place it" }).hasAttribute("disabled")).toBe(true);
  });

  it("asks where two lines meet", async () => {
    const unplaced = [
      {
        run: "r31",
        component: "c20",
        kind: "turbo" as const,
        name: "drain of turbo 2",
        wants: ["where it meets the other's line"],
      },
    ];
    served({ data: { ...DRAINS, drains: [], unplaced } });
    for (const [at, value] of ["72", "-5.5 in", "30"].entries())
      await userEvent.type(screen.getAllByRole("textbox")[at] as HTMLElement, value);
    await userEvent.click(screen.getByRole("button", { name: "Place it" }));
    expect(mutateAsync).toHaveBeenCalledWith(
      expect.objectContaining({
        act: { kind: "tune_drain", run: "r31", meets_mm: ["72", "-5.5 in", "30"] },
      }),
    );
  });

  it("tells of a drain with a stage of its own what it sweeps and what comes", () => {
    const page = served({ data: { ...DRAINS, drains: [], pulled: [PULLED] } });
    expect(page.textContent).toContain("Every drain has a stage of its own");
    expect(page.textContent).toContain("76 % of its sweep");
    expect(page.textContent).toContain(
      "At 600 rpm, where it is tightest, 0.9 L/min come, foam and all, and scavenge stage sweeps 1.2 L/min",
    );
  });

  it("says with whom a drain runs together, or what it falls to", () => {
    const together = { ...DRAIN, shared_with: ["drain of turbo 2"], joins_mm: [72, -140, 30] };
    const page = served({ data: { ...DRAINS, drains: [together as never] } });
    expect(page.textContent).toContain("together with drain of turbo 2");
    const falls = served({ data: { ...DRAINS, drains: [{ ...DRAIN, junction: "tee" }] } });
    expect(falls.textContent).toContain("falls to tee, which a stage empties");
  });

  it("tries a line's way by its bends", async () => {
    const page = served({ data: DRAINS }, { ...none, data: TRIAL, isPlaceholderData: false });
    const tried = vi.mocked(api.useDrainTrial);
    await userEvent.click(screen.getByText("Its way, straight"));
    await userEvent.click(screen.getByRole("button", { name: "One more bend" }));
    const way = screen.getByRole("button", { name: "Try this way" });
    expect(way.hasAttribute("disabled")).toBe(true);
    for (const [label, value] of [
      ["ahead", "72"],
      ["left", "-6 in"],
      ["over rail", "90"],
    ] as const)
      await userEvent.type(screen.getByRole("textbox", { name: label }), value);
    await userEvent.click(way);
    const bends = [{ at_mm: ["72", "-6 in", "90"], radius_mm: null }];
    expect(tried.mock.lastCall?.[1]).toEqual({ run: "r20", bends });
    await userEvent.click(screen.getByRole("button", { name: "Take bend 1 out" }));
    expect(page.textContent).toContain("Its way, straight");
  });

  it("leads to the circuit where nothing drains by a line", () => {
    const page = served({ data: { ...DRAINS, drains: [] } });
    expect(page.textContent).toContain("Nothing drains by a line of its own");
    expect(page.textContent).toContain("under oil for 0.4 s a lap");
  });

  it("shows which of a head's drains face downhill, corner by corner", async () => {
    const page = served({ data: DRAINS });
    await userEvent.click(screen.getByRole("tab", { name: "Heads" }));
    const wet = (): (string | null)[] =>
      [...page.querySelectorAll("[data-wet]")].map((each) => each.getAttribute("data-wet"));
    expect(wet()).toEqual(["true", "false"]); // the corner in which it holds most
    await userEvent.click(screen.getByRole("button", { name: "4 L: 0.4" }));
    expect(wet()).toEqual(["false", "true"]);
    expect(page.textContent).toContain("a guess until they are measured");
  });

  it("says of blow-by whether it is measured, guessed or tried", async () => {
    const said = async (measured: boolean): Promise<string> => {
      const breathing = { ...DRAINS.breathing, measured };
      const page = served({ data: { ...DRAINS, breathing } });
      await userEvent.click(screen.getAllByRole("tab", { name: "Gas" }).at(-1) as HTMLElement);
      return page.textContent;
    };
    expect(await said(true)).toContain("Measured; likely 24 to 96");
    expect(await said(false)).toContain("A guess; likely 24 to 96");
  });

  it("tells the gas in the units shown", async () => {
    const said = async (system: System): Promise<string> => {
      const page = served({ data: DRAINS }, none, system);
      await userEvent.click(screen.getAllByRole("tab", { name: "Gas" }).at(-1) as HTMLElement);
      return wordsIn(page);
    };
    expect(await said("metric")).toContain("2.6 mbar");
    expect(await said("us")).toContain("1.0 inH2O");
  });

  it("tells the rules with their sources, and the guesses with their band", async () => {
    const page = served({ data: DRAINS });
    await userEvent.click(screen.getByRole("tab", { name: "Rules" }));
    expect(page.textContent).toContain("common practice, no published source");
    expect(page.textContent).toContain("40 (30 to 50) %");
  });

  it("mends what a rule found, by its button", async () => {
    const restrict = { kind: "tune_drain" as const, run: "r20", restrictor_mm: 2 };
    const gasket = {
      kind: "figures" as const,
      figures: [{ field: "circuit.components.c14.gasket_mm", value: 16 }],
    };
    const checks = [restrict, gasket].map((mend, at) => ({
      ...DRAINS.checks[0],
      words: `rule ${at}`,
      mend,
    }));
    served({ data: { ...DRAINS, checks: checks as never } });
    await userEvent.click(screen.getByRole("tab", { name: "Rules" }));
    expect(screen.getByRole("button", { name: "Cut its hole to 16 mm" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Restrict to 2 mm" }));
    expect(mutateAsync).toHaveBeenCalledWith(expect.objectContaining({ act: restrict }));
  });

  it("says how a can is emptied", () => {
    const can = { id: "c9", kind: "catch_can" };
    const out = { start: { component: "c9", port: "drain" }, end: { component: "c10" } };
    const said = (kind?: string): string =>
      cans(
        { circuit: { components: [can, { id: "c10", kind }], runs: kind ? [out] : [] } } as never,
        "c9",
      );
    expect(said("drain_cock")).toContain("by its cock");
    expect(said("pan_region")).toContain("drains back by itself");
    expect(said()).toContain("fit one at its lowest point");
  });

  it("tells how long a can lasts: mist, and what covered ports push into it", () => {
    // 3 ml of mist an hour, 12 ml a lap of 2 s
    expect(hoursToFill(2, DRAINS)).toBeCloseTo(2000 / (3 + 12 * 1800));
    const dry = { ...DRAINS, breathing: { ...DRAINS.breathing, carried_ml: 0 } };
    expect(hoursToFill(2, dry)).toBeCloseTo(2000 / 3);
  });
});
