// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { StateRow } from "../api/queries";
import { DUNLIN_BUILD } from "../testing/documents";
import { show } from "../testing/shown";
import { History } from "./History";

const state = vi.hoisted((): { differences: { data: unknown; error: null } } => ({
  differences: { data: undefined, error: null },
}));
const row = (number: number, more: Partial<StateRow> = {}): StateRow => ({
  number,
  parent: number - 1,
  change: `edit ${number}`,
  made_by: "ada",
  made_at: "2026-11-28T00:00:00Z",
  on_way: true,
  aside: false,
  revision: null,
  ...more,
});
vi.mock("../api/queries", () => ({
  useHistory: () => ({
    data: [row(4, { aside: true, on_way: false }), row(3), row(2)],
    error: null,
  }),
  useDifferences: () => state.differences,
  useSideBySide: () => ({ data: undefined, error: null }),
}));

const [onShow, onCar, onName, onClose] = [vi.fn(), vi.fn(), vi.fn(), vi.fn()];
const history = (asIs: number | null): void => {
  const build = { ...DUNLIN_BUILD, as_is: asIs };
  show(<History {...{ build, onShow, onCar, onName, onClose }} />);
};

beforeEach(() => {
  vi.clearAllMocks();
  state.differences = { data: undefined, error: null };
});

describe("the car in the history", () => {
  it("is asked for, and said of any state", async () => {
    history(null);
    expect(screen.getByText(/Nobody has said which state the car is in/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "car is so: state 2" }));
    expect(onCar).toHaveBeenCalledExactlyOnceWith(2);
  });

  it("is as shown", () => {
    history(3);
    expect(screen.getByText("The car is as shown.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "car is so: state 3" })).toBeNull();
  });

  it("is told by what it takes to get to what is shown", () => {
    state.differences.data = [
      { field: "pickup.gap_mm", words: "gap: 8 mm to 9 mm" },
      { field: "pan.plates.p9", words: "P3: new" },
    ];
    history(2);
    expect(screen.getByText(/The car is like state 2. To what is shown it takes:/)).toBeTruthy();
    const list = screen.getByText("gap: 8 mm to 9 mm").closest("ul");
    expect(within(list ?? document.body).getAllByRole("listitem")).toHaveLength(2);
  });

  it("says so where the work is the same, and while it looks", () => {
    state.differences.data = [];
    history(2);
    expect(screen.getByText("The car is like state 2: built as what is shown.")).toBeTruthy();
  });

  it("waits for the differences", () => {
    history(2);
    expect(screen.getByText("Looking at what differs…")).toBeTruthy();
  });

  it("is not called kept aside when it was known better", () => {
    history(4);
    const rows = within(screen.getByRole("list", { name: "States, newest first" }));
    expect(rows.getAllByRole("listitem")[0]?.textContent).toContain("the car");
    expect(rows.getAllByRole("listitem")[0]?.textContent).not.toContain("kept aside");
  });
});
