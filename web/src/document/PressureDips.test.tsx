// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Moving } from "../api/runs";
import { show } from "../testing/shown";
import { PressureDips } from "./PressureDips";

type Pressure = NonNullable<Moving["pressure"]>;
const HELD: Pressure = {
  lowest_bar: 3.04,
  lowest_at_s: 21.1,
  usual_bar: 5,
  wanted_bar: 3,
  band_bar: [2.4, 3.3],
  under_s: 0,
  under_line_s: 22.5,
  dips: [],
};
const DIP: Pressure["dips"][number] = {
  rank: 1,
  start_s: 20.9,
  end_s: 21.3,
  lasts_s: 0.4,
  lowest_bar: 1.2,
  lowest_at_s: 21.1,
  usual_bar: 5,
  load_g: 1.2,
  corner: 2,
  hand: "left",
  place: "in corner 2",
  words: "",
};

describe("pressure dips", () => {
  it("say how much is left where there is none, and how sure that is", () => {
    const { container } = show(<PressureDips pressure={HELD} time={0} onTime={vi.fn()} />);
    expect(container.textContent).toContain("none: the gallery holds");
    expect(container.textContent).toContain(
      "At the least 3.0 bar, at 21.1 s, where 5.0 is usual and under 3.0 were a dip.",
    );
    expect(container.textContent).toContain("the lowest is 2.4 to 3.3 bar: a guess");
  });
  it("lead to their lowest moment, and show which one is at the moment shown", async () => {
    const onTime = vi.fn();
    show(<PressureDips pressure={{ ...HELD, dips: [DIP] }} time={21} onTime={onTime} />);
    const row = screen.getByRole("button", { name: /in corner 2, left/ });
    expect(row.textContent).toContain("1.2 of 5.0 bar");
    expect(row.getAttribute("aria-current")).toBe("true");
    await userEvent.click(row);
    expect(onTime).toHaveBeenLastCalledWith(21.1);
  });
});
