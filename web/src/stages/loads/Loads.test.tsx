// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import { DUNLIN_BUILD } from "../../testing/documents";
import { showInBuild, viewOf } from "../../testing/view";
import { Loads } from "./Loads";

interface Row {
  id: number;
  name: string;
  duration_s: number;
}
const state = vi.hoisted(() => ({
  laps: [] as unknown[],
  keep: vi.fn(),
  error: null as Error | null,
}));
vi.mock("../../api/queries", () => ({ useLaps: () => ({ data: state.laps, error: null }) }));
vi.mock("../../api/logs", () => ({
  useLap: () => ({ data: undefined, error: null }),
  useLogUploads: () => ({ data: [] }),
  useDropLog: () => ({ mutate: vi.fn() }),
  useKeepLaps: () => ({ mutate: vi.fn(), reset: vi.fn(), isPending: false, error: null }),
  useKeepManoeuvre: () => ({ mutate: state.keep, isPending: false, error: state.error }),
  useManoeuvreTrace: () => ({ data: undefined, error: null }),
  useKeepWithGrip: () => ({ mutate: vi.fn(), isPending: false, error: null, isError: false }),
  useRenameLap: () => ({ mutate: vi.fn(), error: null }),
}));
vi.mock("./LogImport", () => ({ LogImport: () => <p>import here</p> }));

const LAPS: Row[] = [
  { id: 1, name: "rain", duration_s: 105.6 },
  { id: 2, name: "dry", duration_s: 81 },
];
const onChoose = vi.fn(() => Promise.resolve());
function loads(laps: Row[], lapId: number | null): void {
  state.laps = laps;
  const view = viewOf({ build: { ...DUNLIN_BUILD, lap_id: lapId } });
  view.edit.mutateAsync = onChoose as unknown as typeof view.edit.mutateAsync;
  showInBuild(<Loads />, view);
}

beforeEach(() => {
  vi.clearAllMocks();
  state.error = null;
});

describe("Loads", () => {
  it("begins with the import while there are no laps", () => {
    loads([], null);
    expect(screen.getByText("import here")).toBeTruthy();
    expect(screen.getByText(/None yet/)).toBeTruthy();
  });

  it("begins with the lap that the build is judged by", () => {
    loads(LAPS, 2);
    const current = screen.getByRole("button", { current: true });
    expect(current.textContent).toContain("dry");
    expect(current.textContent).toContain("shown");
    expect(current.textContent).toContain("1:21.00");
  });

  it("ticks the laps that the build is judged by, and sends all of them", async () => {
    const view = viewOf({ build: { ...DUNLIN_BUILD, lap_id: 2, judged_by: [2] } });
    state.laps = LAPS;
    showInBuild(<Loads />, view);
    const [rain, dry] = [
      screen.getByRole("checkbox", { name: "Judge by rain" }),
      screen.getByRole("checkbox", { name: "Judge by dry" }),
    ];
    expect([rain, dry].map((box) => (box as HTMLInputElement).checked)).toEqual([false, true]);
    await userEvent.click(rain);
    expect(view.edit.mutate).toHaveBeenLastCalledWith({ kind: "judged", lapIds: [2, 1] });
    await userEvent.click(dry);
    expect(view.edit.mutate).toHaveBeenLastCalledWith({ kind: "judged", lapIds: [] });
  });

  it("goes from laps to import and to a load said, and back", async () => {
    loads(LAPS, 2);
    await userEvent.click(screen.getByRole("button", { name: "Import a log" }));
    expect(screen.getByText("import here")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "No logger? Say the load" }));
    expect(screen.getByText(/Braking is often the highest g/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: /^rain/ }));
    expect(screen.getByText("Reading the lap…")).toBeTruthy();
  });

  it("keeps a manoeuvre as it is said, and is judged by it", async () => {
    loads([], null);
    await userEvent.click(screen.getByRole("button", { name: "No logger? Say the load" }));
    await userEvent.selectOptions(screen.getByLabelText("What"), "braking");
    expect(screen.queryByLabelText("First to the")).toBeNull(); // a straight line has no hand
    const level = screen.getByLabelText(/^Load/);
    await userEvent.clear(level);
    await userEvent.type(level, "1,4");
    await userEvent.click(screen.getByRole("button", { name: "Judge by this load" }));
    const [body, then] = state.keep.mock.lastCall as [object, { onSuccess: (lap: Row) => void }];
    expect(body).toMatchObject({
      name: "",
      parts: [{ kind: "braking", level_g: 1.4, engine_speed_rpm: 6500 }],
    });
    then.onSuccess({ id: 9, name: "Braking", duration_s: 9 });
    expect(onChoose).toHaveBeenCalledExactlyOnceWith({ kind: "lap", lapId: 9 });
  });

  it("says a refused figure by its own name", async () => {
    state.error = new Refusal(422, "Refused.", [
      { field: "parts.0.level_g", message: "input should be greater than 0" },
    ]);
    loads([], null);
    await userEvent.click(screen.getByRole("button", { name: "No logger? Say the load" }));
    expect(screen.getByRole("alert").textContent).toContain(
      "1. Load: input should be greater than 0",
    );
  });
});
