// @vitest-environment jsdom
import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/live";
import * as size from "../../parts/size";
import { showInBuild, viewOf } from "../../testing/view";
import { cornerSaid, dipsSaid, pathOf, playWords, pressureSaid } from "./liveWords";
import { PitWall } from "./PitWall";

const CORNER: NonNullable<api.LiveNow["corner"]> = {
  number: 2,
  name: "corner 2",
  hand: "left",
  until_s: 2.2,
  lowest_bar: 1.8,
  usual_bar: 5,
  risk: "near",
};
const NOW: api.LiveNow = {
  time_s: 20,
  lap: 3,
  share: 0.4,
  bar: 5.1,
  expected_bar: 5.2,
  usual_bar: 5.2,
  dip_bar: 3.12,
  rpm: 7511,
  kmh: 160,
  oil_c: 118,
  stands: "as_expected",
  corner: CORNER,
  dips: 2,
  dips_last: 10,
  dips_expected: 10,
};
const POINTS: api.LivePoint[] = [
  { t: 1, bar: 5, expected: null, usual: 5 },
  { t: 1.1, bar: 4, expected: 4.2, usual: 5 },
  { t: 1.2, bar: 3, expected: 3.1, usual: 5 },
];
const LIVE: api.Live = {
  key: "abcdefghjkmn",
  port: 8792,
  host: "pitbox",
  forecast: {
    model: "Moving oil, coarse cells",
    lap: "Saltmarsh",
    state: 1,
    run: 1,
    made_at: "2026-06-07T18:20:00Z",
    dips: 10,
    dry_s: 12,
    lowest_bar: 1.8,
  },
  state: "live",
  fault: "",
  now: NOW,
  points: POINTS,
};

const act = vi.fn();
const leave = vi.fn();

function shown(live: api.Live | null | undefined): void {
  vi.spyOn(size, "useSize").mockReturnValue([vi.fn(), { width: 900, height: 600 }] as never);
  const data = live === undefined ? undefined : { live };
  vi.spyOn(api, "useLive").mockReturnValue({
    data,
    error: live === undefined ? new Error("The server is away.") : null,
    refetch: vi.fn(),
  } as never);
  vi.spyOn(api, "useLiveAct").mockReturnValue({ mutate: act, isPending: false } as never);
  showInBuild(<PitWall onLeave={leave} />, viewOf());
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
  act.mockReset();
  leave.mockReset();
});

describe("the pit wall", () => {
  it("follows a car when it is told to, and leaves it", async () => {
    shown(null);
    await userEvent.click(screen.getByRole("button", { name: "Follow this car" }));
    expect(act).toHaveBeenCalledWith("follow");
    await userEvent.click(screen.getByRole("button", { name: "Back to the book" }));
    expect(leave).toHaveBeenCalled();
    cleanup();
    shown(LIVE);
    await userEvent.click(screen.getByRole("button", { name: "Follow it no more" }));
    expect(act).toHaveBeenLastCalledWith("leave");
  });

  it("says how a logger is joined until one is heard", () => {
    shown({ ...LIVE, now: null, state: "waiting", points: [] });
    expect(screen.getByText(playWords(LIVE))).toBeTruthy();
    expect(screen.getByText(/of the machine pitbox, from that machine itself/)).toBeTruthy();
    cleanup();
    shown({ ...LIVE, now: null, state: "waiting", points: [], port: null });
    expect(screen.getByText(/Nobody listens/)).toBeTruthy();
    cleanup();
    shown({ ...LIVE, now: null, state: "waiting", fault: "headings: have no oil pressure" });
    expect(screen.getByText("headings: have no oil pressure")).toBeTruthy();
    cleanup();
    shown(undefined);
    expect(screen.getByRole("alert").textContent).toContain("away");
  });

  it("shows pressure against what is expected, and the next corner", () => {
    shown(LIVE);
    expect(screen.getByText("as expected")).toBeTruthy();
    expect(screen.getByText("in 2 s: expected down to 1.8 bar")).toBeTruthy();
    expect(screen.getByText(/2 on this lap, 10 on the last, 10 forecast/)).toBeTruthy();
    expect(screen.getByText("Oil 118 °C")).toBeTruthy();
    expect(screen.getByRole("img", { name: /last half minute/ })).toBeTruthy();
    cleanup();
    shown({ ...LIVE, state: "silent" });
    expect(screen.getByText("Its logger is not heard any more")).toBeTruthy();
  });

  it("has a word for each state", () => {
    expect(pressureSaid({ ...NOW, stands: "dips" }).state).toBe("bad");
    expect(pressureSaid({ ...NOW, stands: "under" }).state).toBe("caution");
    expect(cornerSaid({ ...NOW, corner: null }).state).toBe("nothing");
    expect(cornerSaid({ ...NOW, corner: { ...CORNER, risk: "later" } }).state).toBe("caution");
    const free = { ...CORNER, risk: "none", until_s: 0 } as const;
    expect(cornerSaid({ ...NOW, corner: free }).words).toBe("now: 1.8 bar expected, no dip");
    expect(dipsSaid({ ...NOW, dips_last: null })).toBe("2 on this lap, 10 forecast");
  });

  it("breaks the line where nothing is expected", () => {
    const same = (figure: number): number => figure;
    expect(pathOf(POINTS, ({ expected }) => expected, same, same)).toBe("M1.1 4.2L1.2 3.1");
  });

  it("joins what came since to the line so far", () => {
    const later = { t: 1.3, bar: 4, expected: 4, usual: 5 };
    expect(api.joined(POINTS, []).length).toBe(3);
    expect(api.joined(POINTS, [later]).map(({ t }) => t)).toEqual([1, 1.1, 1.2, 1.3]);
    expect(api.joined(POINTS, [{ ...later, t: 40 }]).length).toBe(1);
    expect(api.joined(POINTS, [{ ...later, t: 0.2 }]).map(({ t }) => t)).toEqual([0.2]);
  });
});
