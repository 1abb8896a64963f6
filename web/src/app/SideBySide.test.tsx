// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as queries from "../api/queries";
import type { StateRow } from "../api/queries";
import { DUNLIN_BUILD } from "../testing/documents";
import { show } from "../testing/shown";
import { firstOther, SideBySide } from "./SideBySide";

const row = (number: number, revision: StateRow["revision"] = null): StateRow => ({
  number,
  parent: number - 1,
  change: `edit ${number}`,
  made_by: "ada",
  made_at: "2026-11-29T00:00:00Z",
  on_way: true,
  aside: false,
  revision,
});
const WINDAGE = {
  reached_l: 0.14,
  thrown_l_min: { low: 42, likely: 84, high: 168 },
  power_kw: { low: 0.7, likely: 2.3, high: 5.7 },
};
const named = (number: number, state: number) => ({ number, name: "as raced", state });
const ROWS = [row(4), row(3, named(2, 3)), row(2), row(1, named(1, 1))];

const side = (state: number, underS: number | null, bar: number | null) => ({
  state,
  name: `state ${state}`,
  oil_l: 6.2,
  ground_mm: 58,
  verdict: {
    state: "sound" as const,
    headline: "Keeps its pressure",
    sentence: "",
    dry_s: 1.25,
    dip_count: 2,
    under_s: underS,
    pressure_dip_count: null,
  },
  model: bar === null ? "Settled oil" : "Moving oil, quick cells",
  lowest_bar: bar,
  windage: bar === null ? null : WINDAGE,
});

afterEach(() => vi.restoreAllMocks());

describe("two states side by side", () => {
  it("begin with the newest revision that is not shown, or the first state", () => {
    expect(firstOther(ROWS, 4)).toBe(3);
    expect(firstOther(ROWS, 3)).toBe(1);
    expect(firstOther([row(2), row(1)], 2)).toBe(1);
    expect(firstOther([row(1)], 1)).toBe(1);
  });

  it("show both figures, what was not run as not run, and what differs", async () => {
    const asked = vi.spyOn(queries, "useSideBySide").mockReturnValue({
      data: {
        lap_name: "lap 7",
        sides: [side(3, null, null), side(4, 0, 3.4)],
        thrown: "about as much as state 3",
        differences: [{ field: "pan.plates.p9", words: "P3: new" }],
      },
      error: null,
    } as never);
    show(<SideBySide build={{ ...DUNLIN_BUILD, state: 4 }} rows={ROWS} />);
    expect(asked.mock.lastCall?.[1]).toBeNull();
    await userEvent.click(screen.getByText("Two states side by side"));
    expect(asked.mock.lastCall?.[1]).toEqual([3, 4]);
    const cells = (label: string): (string | null)[] => {
      const line = screen.getByRole("rowheader", { name: label, hidden: true }).closest("tr");
      return [...(line?.querySelectorAll("td") ?? [])].map((cell) => cell.textContent);
    };
    expect(cells("Lowest pressure")).toEqual(["not run", "3.4 bar"]);
    expect(cells("Without pressure")).toEqual(["not run", "0.0 s"]);
    expect(cells("Mouth dry")).toEqual(["1.3 s", "1.3 s"]);
    expect(cells("Thrown by the crank")).toEqual(["not known", "about 84 L/min"]);
    expect(screen.getByText(/second.s crank: about as much as state 3\. An estimate/)).toBeTruthy();
    expect(screen.getByText("P3: new")).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("This"), "1");
    expect(asked.mock.lastCall?.[1]).toEqual([1, 4]);
    expect(within(screen.getByLabelText("This")).getAllByRole("option")).toHaveLength(4);
  });
});
