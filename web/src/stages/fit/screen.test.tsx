// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/fit";
import * as queries from "../../api/queries";
import * as queues from "../../parts/useQueue";
import * as sizes from "../../parts/size";
import { FIT, FIT_STAGE, foundOf, placeOf } from "../../testing/fit";
import { SETTINGS } from "../../testing/settings";
import { show } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { FitScreen } from "./FitScreen";
import { SayPlace } from "./SayPlace";

const add = vi.fn();
const mutate = vi.fn();

function served(data: api.FitStage | undefined, error: Error | null = null): HTMLElement {
  vi.spyOn(api, "useFit").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  vi.spyOn(queries, "useSession").mockReturnValue({ data: { username: "MK" } } as never);
  vi.spyOn(queues, "useQueue").mockReturnValue({
    rows: [],
    lasts: true,
    fault: null,
    isAway: false,
    add,
    drop: vi.fn(),
    retry: vi.fn(),
  });
  vi.spyOn(sizes, "useSize").mockReturnValue([() => undefined, { width: 700, height: 600 }]);
  const edit = { mutate, mutateAsync: vi.fn(), reset: vi.fn() } as never;
  return showInBuild(<FitScreen />, viewOf({ edit }), "/builds/7/fit").container;
}

const first = (elements: HTMLElement[]): HTMLElement => elements[0] as HTMLElement;
const button = (name: RegExp | string): HTMLElement =>
  first(screen.getAllByRole("button", { name }));

beforeEach(() => {
  window.scrollTo = vi.fn();
});
afterEach(() => {
  vi.restoreAllMocks();
  [add, mutate].forEach((each) => each.mockReset());
});

describe("the Fit screen", () => {
  it("says what could not be read", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
  });

  it("begins a round where there is none, with what is offered up and what that hides", async () => {
    served({ ...FIT_STAGE, fit: { ...FIT, rounds: [] } });
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe(
      "Nothing was offered up yet",
    );
    await userEvent.selectOptions(first(screen.getAllByLabelText("Offered up")), "tack_welded");
    expect(screen.getAllByText("The weld draws it.")).toBeTruthy();
    await userEvent.click(button("Begin round 1"));
    expect(add.mock.calls[0]?.[0]).toMatchObject({ kind: "round_begun", means: "tack_welded" });
  });

  it("steps the gap, says what was done, keeps it and goes to the next", async () => {
    served(FIT_STAGE);
    const wider = button("A wider gap");
    fireEvent.pointerDown(wider);
    fireEvent.pointerUp(wider);
    await userEvent.click(button("trimmed"));
    await userEvent.click(button(/^Keep 20 mm/));
    expect(add.mock.calls[0]?.[0]).toMatchObject({
      kind: "found",
      place: "k3:pan",
      gap_mm: 20,
      touches: false,
      done: "trimmed",
    });
    expect(first(screen.getAllByRole("heading", { level: 2 })).textContent).toContain(
      "pan to ground",
    );
  });

  it("types a gap, and takes a touch", async () => {
    served(FIT_STAGE);
    await userEvent.click(button(/Gap found, 19 mm/));
    const field = first(screen.getAllByLabelText("Gap found"));
    await userEvent.clear(field);
    await userEvent.type(field, "12,5{Enter}");
    await userEvent.click(button(/^Keep 1[23] mm/));
    expect(add.mock.calls[0]?.[0]).toMatchObject({ gap_mm: 12.5 });
    await userEvent.click(button("It touches"));
    await userEvent.click(button(/^Keep the touch/));
    expect(add.mock.calls[1]?.[0]).toMatchObject({ touches: true, gap_mm: null });
  });

  it("numbers the places on the drawing, picks one there, and moves a keep-out", async () => {
    const correction = {
      keep_out: "k3",
      name: "exhaust",
      nearer_mm: 6,
      figures: [["car.keep_outs.k3.from_mm.1", 148]],
    } as never;
    const places = [
      placeOf("k3:pan", 1, { name: "pan to exhaust", found: [foundOf(1, 13)], correction }),
      ...FIT.places.slice(1),
    ];
    const page = served({ ...FIT_STAGE, fit: { ...FIT, places } });
    expect(page.querySelectorAll("[data-view] [data-place]").length).toBeGreaterThan(3);
    await userEvent.click(button(/^1.*, pan to exhaust/));
    await userEvent.click(button("Move the exhaust"));
    expect(mutate.mock.calls[0]?.[0]).toMatchObject({
      kind: "act",
      system: "metric",
      act: { kind: "figures", figures: [{ field: "car.keep_outs.k3.from_mm.1", value: 148 }] },
    });
  });

  it("says a place by name and by pointing at it, in both views", async () => {
    const page = served(FIT_STAGE);
    await userEvent.type(
      first(screen.getAllByLabelText("A place that is not listed")),
      "lid to mount",
    );
    await userEvent.click(button("Point at it"));
    const drawing = page.querySelector("[data-pointing] [data-view=side]") as Element;
    fireEvent.click(drawing, { clientX: 350, clientY: 60 });
    await userEvent.click(button("Look there too"));
    const said = add.mock.calls[0]?.[0] as { at_mm: number[]; place: string };
    expect(said).toMatchObject({ kind: "place_said", name: "lid to mount" });
    expect(said.place).toMatch(/^o[0-9a-f]{12}$/);
    expect(said.at_mm).toHaveLength(3);
  });

  it("takes a gap that is wanted in the units shown", async () => {
    const enter = vi.fn();
    const us = { ...SETTINGS, system: "us" as const };
    show(<SayPlace fit={FIT} onEnter={enter} />, us);
    await userEvent.type(screen.getByLabelText("A place that is not listed"), "lid");
    await userEvent.clear(screen.getByLabelText("wanted, in"));
    await userEvent.type(screen.getByLabelText("wanted, in"), "0.5");
    await userEvent.click(screen.getByRole("button", { name: "Look there too" }));
    expect((enter.mock.lastCall?.[0] as { wanted_mm: number }).wanted_mm).toBeCloseTo(12.7);
  });

  it("closes a round only when nothing keeps it open", () => {
    served(FIT_STAGE);
    expect(button(/2 places keep round 1 open/)).toHaveProperty("disabled", true);
  });
});
