// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/pressure";
import type { Cooling, Supply } from "../../api/pressure";
import { SettingsContext } from "../../parts/settings";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { SETTINGS } from "../../testing/settings";
import { showInBuild, viewOf } from "../../testing/view";
import { CoolingPage } from "./CoolingPage";
import { SupplyPage } from "./SupplyPage";

const ROW: Supply["hot"][number] = {
  rpm: 900,
  outlet_bar: 1.2,
  gallery_bar: 1.1,
  inlet_bar: -0.02,
  brought_l_min: 6,
  relieved_l_min: 0,
  unfiltered: 0,
  starves: false,
  along: [],
};
const SUPPLY: Supply = {
  hot_c: 112,
  cold_c: 15,
  hot: [ROW, { ...ROW, rpm: 6000, gallery_bar: 5, outlet_bar: 5.6, relieved_l_min: 12 }],
  cold: [{ ...ROW, gallery_bar: 5.2, outlet_bar: 5.5, unfiltered: 0.4, starves: true }],
  setting: null,
  second_filter: null,
  lines: { held_l: 0.42, name: "to the cooler", bore_mm: 14.1, more_l_m: 0.156 },
  start_up: { rpm: 250, dry_s: 57, primed_s: 21, to_fill_l: 1.3, to_fill_primed_l: 0.5 },
};
const COOLING: Cooling = {
  power_guessed: true,
  given_kw: 4.2,
  given_btu_h: 14_300,
  lost_kw: 1.3,
  steady_c: 121.4,
  wanted_c: 112,
  needed_kw: 9.4,
  needed_btu_h: 32_100,
  needed_over_kelvin: 80,
  over_is_guessed: true,
  coolers: [
    {
      component: "c12",
      heat_kw: 2.9,
      heat_btu_h: 9_900,
      effectiveness: 0.42,
      flow_l_min: 22,
      oil_in_c: 121.4,
      oil_out_c: 112.6,
      other_out_c: 48,
      rating_known: true,
    },
  ],
  time_s: [0, 600, 1200],
  temperature_c: [60, 105, 118],
  usual_bar: 4.9,
  steady_bar: 4.7,
};

const answers = (name: "useSupply" | "useCooling", data: unknown, error: Error | null = null) =>
  vi.spyOn(api, name).mockReturnValue({ data, error, isFetching: false } as never);
const edited = () => {
  const mutateAsync = vi.fn().mockResolvedValue({});
  return { mutateAsync, view: viewOf({ edit: { mutateAsync, reset: vi.fn() } as never }) };
};

afterEach(() => {
  vi.restoreAllMocks();
});

describe("supply", () => {
  it("tells a cold start's open bypass and a starved pump", () => {
    answers("useSupply", SUPPLY);
    const { container } = showInBuild(<SupplyPage />);
    expect(container.textContent).toContain("900 rpm (40 % unfiltered)");
    expect(container.textContent).toContain("sucked lower than 0.25 bar at 900 rpm");
    expect(container.textContent).toContain(
      "The lines under pressure hold 0.4 L. Each metre more of the line “to the cooler” regains 0.16 L",
    );
    expect(container.textContent).toContain("57 s from dry (1.3 L to fill), 21 s");
  });
  it("tells drops in the units of the table", () => {
    const along = [{ component: "c5", drop_bar: 0.5, flow_l_min: 20, bypassed_l_min: 0 }];
    answers("useSupply", { ...SUPPLY, hot: [{ ...ROW, along }], cold: [] });
    const psi = { label: "psi", scale: 14.5038, offset: 0, decimals: 0 };
    const bar = { label: "bar", scale: 1, offset: 0, decimals: 1 };
    const units = [{ suffix: "_bar", metric: bar, us: psi }];
    const view = viewOf();
    const { container } = showInBuild(
      <SettingsContext value={{ ...SETTINGS, system: "us", units }}>
        <SupplyPage />
      </SettingsContext>,
      view,
    );
    expect(container.textContent).toContain("7.3");
  });
  it("tells a flow's unit among pressures, and no fall over a cooler that is not there", () => {
    answers("useSupply", SUPPLY);
    const { circuit } = DUNLIN;
    const components = circuit.components.filter(({ kind }) => kind !== "cooler");
    const document = { ...DUNLIN, circuit: { ...circuit, components } };
    const heads = (view = viewOf()): (string | null)[] => {
      const { container } = showInBuild(<SupplyPage />, view);
      const first = container.querySelector("table");
      return [...(first?.querySelectorAll("th") ?? [])].map((each) => each.textContent);
    };
    expect(heads()).toEqual(["rpm", "gallery", "pump", "filter", "cooler", "let back, L/min"]);
    expect(heads(viewOf({ build: { ...DUNLIN_BUILD, document } }))).not.toContain("cooler");
  });
  it("asks as typed, and sets the valve that rules", async () => {
    const asked = answers("useSupply", {
      ...SUPPLY,
      setting: {
        valve: "relief valve",
        wanted_bar: 4.2,
        rpm: 6000,
        opens_bar: 4.7,
        now_bar: 5.4,
        most_bar: 9,
        least_bar: 0.8,
      },
    });
    const { mutateAsync, view } = edited();
    showInBuild(<SupplyPage />, view);
    await userEvent.click(screen.getByRole("button", { name: "Set it so" }));
    expect(mutateAsync.mock.calls[0]?.[0]).toMatchObject({
      kind: "act",
      act: { kind: "figures", figures: [{ value: 4.7 }] },
    });
    const field = screen.getByLabelText("Wanted in the gallery");
    await userEvent.clear(field);
    await userEvent.type(field, "60 psi{Enter}");
    expect(asked.mock.lastCall?.[1]).toEqual({ wanted_bar: "60 psi" });
  });
  it("says when no setting gives it, and what is refused", () => {
    const setting = { valve: "relief valve", wanted_bar: 20, rpm: 6000, now_bar: 5.4 };
    answers("useSupply", {
      ...SUPPLY,
      setting: { ...setting, opens_bar: null, most_bar: 9, least_bar: 0.8 },
    });
    const { container } = showInBuild(<SupplyPage />);
    expect(container.textContent).toContain("No setting gives that");
    answers("useSupply", undefined, new Error("wanted_bar: must be above 0"));
    showInBuild(<SupplyPage />);
    expect(screen.getByRole("alert").textContent).toContain("must be above 0");
  });
});

describe("cooling", () => {
  it("says where the oil comes to rest, and what the cooler takes and would need", () => {
    answers("useCooling", COOLING);
    const { container } = showInBuild(<CoolingPage runId={null} />);
    expect(container.textContent).toContain("Comes to rest at 121");
    expect(container.textContent).toContain(
      "wants a rating of 9.4 kW (32,100 BTU/h), with its oil 80 K warmer than what cools it, a guess",
    );
    expect(container.textContent).toContain("150 kW is taken, a guess");
  });
  it("takes the temperature over when asked", async () => {
    answers("useCooling", COOLING);
    const { mutateAsync, view } = edited();
    showInBuild(<CoolingPage runId={null} />, view);
    await userEvent.click(screen.getByRole("button", { name: /^Forecast with 121/ }));
    expect(mutateAsync.mock.calls[0]?.[0]).toMatchObject({
      act: { figures: [{ field: "oil.temperature_c", value: 121 }] },
    });
  });
  it("judges nothing by a cooler that nobody rated", () => {
    const [cooler] = COOLING.coolers;
    const bare = cooler ? [{ ...cooler, rating_known: false }] : [];
    answers("useCooling", { ...COOLING, coolers: bare, steady_c: null });
    const { container } = showInBuild(<CoolingPage runId={null} />);
    expect(container.textContent).toContain("Not known: a cooler's rating is not given");
    expect(screen.queryByRole("button", { name: /Forecast with/ })).toBeNull();
  });
  it("cautions of leaks between the circuits too", () => {
    answers("useCooling", { ...COOLING, coolers: [] });
    const { container } = showInBuild(<CoolingPage runId={null} />);
    expect(container.textContent).toMatch(/leaks outside.*oil in the water and water in the oil/);
    expect(container.textContent).toContain("No cooler in this circuit");
  });
});
