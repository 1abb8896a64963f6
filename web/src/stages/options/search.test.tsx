// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/options";
import { studyOf } from "../../testing/options";
import { showInBuild } from "../../testing/view";
import { bestWords, searchFor, SearchPanel, shareOf } from "./SearchPanel";

const act = vi.fn();
const apply = vi.fn();

const place = (key: string, across: number, up: number, dry: number | null, alike = false) => ({
  key,
  across_mm: across,
  up_mm: up,
  reason: dry === null ? "no room" : "",
  dry_s: dry,
  under_s: dry === null ? null : 0.1,
  starts: dry === null ? 0 : 2,
  alike,
});

const SEARCH: api.Search = {
  what: "level_plate",
  state: 1,
  is_current: true,
  progress: studyOf().progress,
  across_label: "opening over the mouth",
  up_label: "depth under the rail",
  places: [
    place("a", 50, 60, 2.0),
    place("b", 64, 60, 1.1, true),
    place("c", 50, 80, 1.0, true),
    place("d", 64, 80, null),
  ],
  best: "c",
};

function served(search: api.Search | null): HTMLElement {
  vi.spyOn(api, "useSearch").mockReturnValue({ data: { search }, error: null } as never);
  vi.spyOn(api, "useSearchAct").mockReturnValue({
    mutate: act,
    isPending: false,
    error: null,
  } as never);
  vi.spyOn(api, "useApplyRemedy").mockReturnValue({
    mutate: apply,
    isPending: false,
    error: null,
  } as never);
  return showInBuild(<SearchPanel what="level_plate" />).container;
}

afterEach(() => {
  vi.restoreAllMocks();
  [act, apply].forEach((each) => each.mockReset());
});

describe("a search", () => {
  it("is begun here", async () => {
    served(null);
    await userEvent.click(screen.getByText("Where a level plate does best"));
    await userEvent.click(screen.getByRole("button", { name: /Search height and opening/ }));
    expect(act).toHaveBeenCalledWith("begin");
  });

  it("shows its grid, the best, and what cannot be told from it", async () => {
    const page = served(SEARCH);
    expect(page.querySelectorAll("[data-place]")).toHaveLength(4);
    expect(page.querySelector("[data-best]")?.getAttribute("data-place")).toBe("c");
    expect(page.querySelector("[data-place=d]")?.textContent).toBe("no");
    expect(bestWords(SEARCH, (mm) => `${mm} mm`)).toBe(
      "Best about depth under the rail 80 mm, opening over the mouth 50 mm; 60 mm to 80 mm and 50 mm to 64 mm cannot be told from it. It is at the edge of what was tried: beyond may do better still.",
    );
    await userEvent.click(screen.getByRole("button", { name: "Make the best a revision" }));
    expect(apply).toHaveBeenCalledWith("c");
  });

  it("is ended while it is under way, and nothing of it is applied", async () => {
    const progress = { ...SEARCH.progress, status: "running" as const };
    served({ ...SEARCH, progress });
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(act).toHaveBeenCalledWith("cancel");
    expect(screen.queryByRole("button", { name: "Make the best a revision" })).toBeNull();
  });

  it.each([
    ["level_0.5", "level_plate"],
    ["level_sides", "level_plate"],
    ["pickup_left", "pickup"],
    ["gates_3", "gates"],
    ["sides", "side_plates"],
    ["tray", null],
  ])("is offered with the row that it is of: %s", (key, what) => {
    expect(searchFor(key)).toBe(what);
  });

  it("says nothing of an edge where the best lies within", () => {
    const places = [1, 2, 3].flatMap((across) =>
      [10, 20, 30].map((up) =>
        place(`${across} ${up}`, across, up, across === 2 && up === 20 ? 1 : 3),
      ),
    );
    const within = { ...SEARCH, places, best: "2 20" };
    expect(bestWords(within, (mm) => `${mm} mm`)).not.toContain("edge");
    expect(bestWords({ ...within, best: "3 20" }, (mm) => `${mm} mm`)).toContain("edge");
  });

  it("colours between the best and the worst", () => {
    const shares = SEARCH.places.map((each) => shareOf(each, SEARCH.places));
    expect(shares).toEqual([1, expect.closeTo(0.1), 0, 0]);
  });
});
