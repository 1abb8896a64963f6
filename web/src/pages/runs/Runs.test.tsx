// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import * as api from "../../api/runs";
import { show } from "../../testing/shown";
import { RunList } from "./Runs";

const SUMMARY = {
  dry_s: 1.25,
  lowest_bar: 2.1,
  windage: {
    reached_l: 0.14,
    thrown_l_min: { low: 42, likely: 84, high: 168 },
    power_kw: { low: 0.7, likely: 2.3, high: 5.7 },
  },
};

const run = (id: number, given: object = {}): api.Run =>
  ({
    id,
    build_id: 7,
    build_name: "Dunlin",
    state: id,
    revision: null,
    lap_name: "lap 7",
    cells: "quick",
    seed: 0,
    status: "finished",
    reason: "",
    reached_s: 90,
    lasts_s: 90,
    left_s: null,
    attempt: 0,
    cpu_s: 31.4,
    asked_at: "2026-11-29T08:00:00Z",
    summary: SUMMARY,
    ...given,
  }) as unknown as api.Run;

const cancelled = vi.fn();
const opened = vi.fn();

function served(runs: api.Run[] | undefined, error: Error | null = null): void {
  vi.spyOn(api, "useRuns").mockReturnValue({
    data: runs && { runs, speeds: [] },
    error,
    refetch: vi.fn(),
  } as never);
  vi.spyOn(api, "useCancelRun").mockReturnValue({ mutate: cancelled, error: null } as never);
  show(<RunList onOpen={opened} />);
}

const cells = (id: number): (string | null)[] =>
  [...(screen.getAllByRole("row")[id]?.querySelectorAll("td") ?? [])].map(
    ({ textContent }) => textContent,
  );

afterEach(() => {
  vi.restoreAllMocks();
  cancelled.mockReset();
});

describe("the list of runs", () => {
  it("says that there is none, and that it could not be read", () => {
    served([]);
    expect(screen.getByText(/None yet/)).toBeTruthy();
    served(undefined, new Refusal(503, "The database is away.", []));
    expect(screen.getByRole("alert").textContent).toContain("The database is away.");
  });

  it("tells where each stands, what its crank throws and what it cost", () => {
    served([
      run(1),
      run(2, { summary: { ...SUMMARY, windage: null } }),
      run(3, { summary: { ...SUMMARY, lowest_bar: null }, seed: 2 }),
      run(4, { status: "failed", reason: "it was lost twice", summary: null, cpu_s: null }),
      run(5, { revision: { number: 2, name: "gated", state: 5 } }),
    ]);
    const heads = screen.getAllByRole("columnheader").map(({ textContent }) => textContent);
    const at = heads.indexOf("Crank throws");
    expect(cells(1)[at]).toBe("about 84 L/min");
    expect(cells(1)[heads.indexOf("Stands")]).toBe("finished: dry 1.3 s, lowest 2.1 bar");
    expect(cells(1)[heads.indexOf("Cost")]).toBe("31 CPU s");
    expect(cells(2)[at]).toBe(""); // older runs do not tell it
    expect(cells(3)[heads.indexOf("Stands")]).toContain("by an older model");
    expect(cells(3)[heads.indexOf("Cells")]).toContain("start 3");
    expect(cells(4)[heads.indexOf("Stands")]).toBe("failed: it was lost twice");
    expect(cells(5)[0]).toContain("Dunlin, R2 gated");
    expect(screen.queryByRole("button", { name: "Cancel" })).toBeNull();
  });

  it("cancels what is under way, and opens a run's build", async () => {
    served([run(1, { status: "running", reached_s: 45, left_s: 12.4, summary: null })]);
    expect(cells(1)[3]).toBe("running: 50 %, 12 s to go");
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(cancelled).toHaveBeenLastCalledWith(1);
    const row = screen.getAllByRole("row")[1];
    await userEvent.click(within(row as HTMLElement).getByRole("button", { name: /Dunlin/ }));
    expect(opened).toHaveBeenLastCalledWith(7);
  });

  it("tells one that waits again from one that waits", () => {
    served([
      run(1, { status: "waiting", attempt: 1, summary: null }),
      run(2, { status: "waiting", summary: null }),
      run(3, { status: "running", reached_s: 9, left_s: null, summary: null }),
    ]);
    expect([1, 2, 3].map((each) => cells(each)[3])).toEqual([
      "waiting: lost its worker; waits again",
      "waiting: waits",
      "running: 10 %",
    ]);
  });
});
