// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { show } from "../../testing/shown";
import { Dips } from "./Dips";
import { onlySettled, settledDry } from "./settledBeside";

type Lap = Schemas["LapForecastOut"];

const dip = (rank: number, start: number, end: number): Schemas["DipOut"] => ({
  rank,
  start_s: start,
  end_s: end,
  dry_s: end - start,
  worst_s: (start + end) / 2,
  cover_mm: -5,
  load_g: 1.2,
  side_g: 1.1,
  fore_g: 0.2,
  corner: rank,
  hand: "left",
  place: `in corner ${rank}`,
  words: "",
});
const lap = (dips: Schemas["DipOut"][]): Lap =>
  ({
    dips,
    dry_s: 1,
    duration_s: 80,
    least_cover_mm: 4,
    least_cover_at_s: 3,
    draws_air_s: 0,
  }) as unknown as Lap;

const [FIRST, SECOND] = [dip(1, 10, 10.4), dip(2, 30, 30.2)];
const MOVING = [FIRST, SECOND];
const SETTLED = [dip(1, 10.6, 11.5), dip(2, 50, 51)];

describe("dips beside those of settled oil", () => {
  it("are of one place when they meet or nearly so", () => {
    expect(settledDry(FIRST, SETTLED)).toBeCloseTo(0.9);
    expect(settledDry(SECOND, SETTLED)).toBe(0);
    expect(onlySettled(MOVING, SETTLED)).toEqual([SETTLED[1]]);
  });
  it("say what settled oil does there, and end with what only it does", async () => {
    const onTime = vi.fn();
    show(<Dips lap={lap(MOVING)} settled={lap(SETTLED)} at={1} onTime={onTime} />);
    const rows = screen.getAllByRole("listitem").map((row) => row.textContent);
    expect(rows[0]).toContain("settled oil 0.9 s");
    expect(rows[1]).toContain("settled oil covers");
    expect(rows[2]).toContain("1.0 s");
    screen.getByText("Only in settled oil");
    await userEvent.click(screen.getByRole("button", { name: /only settled oil/ }));
    expect(onTime).toHaveBeenCalledWith(50.5);
  });
  it("say nothing of settled oil where the figures are its own", () => {
    show(<Dips lap={lap(SETTLED)} settled={null} at={null} onTime={vi.fn()} />);
    expect(screen.queryByText(/settled/)).toBeNull();
  });
});
