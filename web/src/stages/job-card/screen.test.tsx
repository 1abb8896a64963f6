// @vitest-environment jsdom
import { fireEvent, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/job";
import * as queries from "../../api/queries";
import * as queues from "../../parts/useQueue";
import * as sizes from "../../parts/size";
import { cardOf, FLANGE, JOB, STEPS } from "../../testing/job";
import { showInBuild, viewOf } from "../../testing/view";
import { JobCardScreen } from "./JobCardScreen";

const say = vi.fn();
const add = vi.fn();
const close = vi.fn();
const mutate = vi.fn();

function served(
  data: api.JobStage | undefined,
  error: Error | null = null,
  path = "/builds/7/job-card",
): HTMLElement {
  vi.spyOn(api, "useJob").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  vi.spyOn(api, "useSay").mockReturnValue({ mutate: say, error: null } as never);
  vi.spyOn(api, "useClose").mockReturnValue({ mutate: close, error: null } as never);
  vi.spyOn(api, "useTickPart").mockReturnValue({ mutate, error: null } as never);
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
  vi.spyOn(sizes, "useSize").mockReturnValue([() => undefined, { width: 390, height: 600 }]);
  const edit = { mutate, mutateAsync: vi.fn(), reset: vi.fn() } as never;
  return showInBuild(<JobCardScreen />, viewOf({ edit }), path).container;
}

const done = STEPS.map((step) => ({
  ...step,
  state: "done" as const,
  at: "2026-07-13T09:00:00Z",
  by: "MK",
}));
const at = (id: string): string => `/builds/7/job-card?step=${id}`;
const bolts = (tight: [number, number][]): api.JobStage => ({
  ...JOB,
  card: cardOf(
    STEPS.map((step) =>
      step.id === "torque_pan"
        ? { ...step, tight }
        : { ...(done.find(({ id }) => id === step.id) ?? step) },
    ),
    { flange: FLANGE },
  ),
});

beforeEach(() => {
  window.scrollTo = vi.fn();
});
afterEach(() => {
  vi.restoreAllMocks();
  [say, add, close, mutate].forEach((each) => each.mockReset());
});

describe("the Job card screen", () => {
  it("says what could not be read", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
  });

  it("asks which state the car is in, and says where nothing is to do", async () => {
    const made_at = "2026-07-01T08:00:00Z";
    const choose = [
      { state: 4, words: "oil 10W-60", made_at, before: "dry sump" },
      { state: 1, words: "from a file", made_at, before: "" },
    ];
    served({ ...JOB, card: null, choose });
    expect(screen.getAllByText(/most likely this/)).toHaveLength(1);
    expect(screen.getByText(/before anything was planned \(dry sump\)/)).toBeTruthy();
    await userEvent.click(screen.getAllByRole("button", { name: "The car is so" })[1] as Element);
    expect(mutate).toHaveBeenCalledWith({ kind: "asIs", state: 1 });
    served({ ...JOB, card: cardOf([]) });
    expect(screen.getByText(/the car is as it is planned/)).toBeTruthy();
  });

  it("lets another state be chosen until the job is begun", async () => {
    const row = { made_at: "2026-07-01T08:00:00Z", before: "" };
    const choose = [1, 2].map((state) => ({ state, words: `change ${state}`, ...row }));
    served({ ...JOB, number: null, choose });
    await userEvent.click(
      screen.getAllByRole("button", { name: "It is in another" })[0] as Element,
    );
    expect(screen.getByText(/chosen/).parentElement?.textContent).toContain("State 1");
    await userEvent.click(screen.getByRole("button", { name: "Back to the card" }));
    expect(mutate).not.toHaveBeenCalled();
    await userEvent.click(
      screen.getAllByRole("button", { name: "It is in another" })[0] as Element,
    );
    await userEvent.click(screen.getAllByRole("button", { name: "The car is so" })[1] as Element);
    expect(mutate).toHaveBeenCalledExactlyOnceWith({ kind: "asIs", state: 2 });
    expect(screen.getByRole("button", { name: "Begin this job" })).toBeTruthy();
  });

  it("says no more of the state once the job is begun", () => {
    served(JOB);
    expect(screen.queryByText(/The car is in state/)).toBeNull();
    served({ ...JOB, card: cardOf([]) });
    expect(screen.queryByText(/The car is in state/)).toBeNull();
  });

  it("takes a part that is renewed where nothing else is to do", async () => {
    served({ ...JOB, number: null, card: cardOf([]) });
    await userEvent.click(screen.getByRole("button", { name: "Renew" }));
    expect(say.mock.calls[0]?.[0]).toMatchObject({
      how: "try",
      said: { extras: [{ do: "renew", part: "pan" }] },
    });
  });

  it("shows how a job would be, tries what is said of it, and begins it", async () => {
    served({ ...JOB, number: null });
    await userEvent.selectOptions(screen.getAllByLabelText("Pan joint")[0] as Element, "liquid");
    expect(say.mock.calls[0]?.[0]).toMatchObject({ how: "try", said: { sealing: "liquid" } });
    await userEvent.click(screen.getByRole("button", { name: "Begin this job" }));
    expect(say.mock.calls[1]?.[0]).toMatchObject({ how: "begin" });
  });

  it("ticks the next step, and not one behind a gate", async () => {
    served(JOB);
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("Car on its stands");
    await userEvent.click(screen.getByRole("button", { name: "Done" }));
    expect(add.mock.calls[0]?.[0]).toEqual({ kind: "ticked", step: "stands", words: "" });
    served(JOB, null, at("drain"));
    const held = screen.getByRole("button", { name: "A gate comes first" });
    expect(held).toHaveProperty("disabled", true);
  });

  it("passes a gate only for a reason that is long enough", async () => {
    HTMLDialogElement.prototype.showModal = vi.fn();
    HTMLDialogElement.prototype.close = vi.fn();
    served(JOB);
    await userEvent.click(screen.getByRole("button", { name: "Pass without, and say why" }));
    const box = screen.getByText(/must not be passed/).closest("form") as HTMLElement;
    const go = within(box).getByText("Pass without it");
    await userEvent.type(within(box).getByLabelText("Why"), "no");
    expect(go).toHaveProperty("disabled", true);
    await userEvent.type(within(box).getByLabelText("Why"), "pe: on the rated lift");
    await userEvent.click(go);
    expect(add.mock.calls[0]?.[0]).toMatchObject({ kind: "overridden", step: "stands" });
  });

  it("ticks bolt by bolt, by the button and by the nearest touch, and takes one back", async () => {
    const page = served(bolts([[1, 1]]), null, at("torque_pan"));
    await userEvent.click(screen.getByRole("button", { name: "Bolt 2 is tight" }));
    expect(add.mock.calls[0]?.[0]).toMatchObject({ kind: "bolt_tight", bolt: 4 });
    await userEvent.click(screen.getByRole("button", { name: "Undo 1" }));
    expect(add.mock.calls[1]?.[0]).toMatchObject({ kind: "bolt_loose", bolt: 1 });
    const drawing = page.querySelector("[data-bolts]") as Element;
    vi.spyOn(drawing, "getBoundingClientRect").mockReturnValue({
      left: 0, top: 0, width: 358, height: 180,
    } as DOMRect); // prettier-ignore
    const [, x, y] = /translate\(([\d.]+) ([\d.]+)\)/.exec(
      page.querySelector("[data-bolt='0']")?.getAttribute("transform") ?? "",
    ) as unknown as [string, string, string];
    fireEvent.pointerUp(drawing, { clientX: Number(x) - 9, clientY: Number(y) + 8 });
    expect(add.mock.calls[2]?.[0]).toMatchObject({ kind: "bolt_tight", bolt: 0 });
  });

  it("says all are tight, and the torque in three units", async () => {
    served(bolts(FLANGE.pattern.map((bolt) => [1, bolt])), null, at("torque_pan"));
    expect(document.querySelector("[data-torque]")?.textContent).toContain("106 lbf·in");
    await userEvent.click(screen.getByRole("button", { name: "All 6 tight: done" }));
    expect(add.mock.calls[0]?.[0]).toMatchObject({ kind: "ticked", step: "torque_pan" });
  });

  it("takes the maker's torque, and an order of one's own", async () => {
    served(bolts([]), null, at("torque_pan"));
    await userEvent.click(screen.getByRole("button", { name: "another figure" }));
    await userEvent.type(screen.getByLabelText("The maker's"), "80 lbf in");
    await userEvent.click(screen.getByRole("button", { name: "Use it" }));
    const said = say.mock.calls[0]?.[0] as { said: { torque_nm: Record<string, number> } };
    expect(said.said.torque_nm.torque_pan).toBeCloseTo(9.039, 3);
    await userEvent.click(screen.getByRole("button", { name: "An order of your own" }));
    expect(screen.getByText(/0 of 6$/)).toBeTruthy();
  });

  it("closes the card when all is done", async () => {
    served({ ...JOB, card: cardOf(done) });
    await userEvent.click(screen.getByRole("button", { name: "Close job card 1" }));
    expect(close).toHaveBeenCalled();
  });

  it("keeps what is in the way, renews and looks over, ticks parts, tells surplus", async () => {
    served({
      ...JOB,
      wanted: [
        { part: "gate_rubber", words: "rubber gate", count: 3, per: "piece", price: 66,
          own_price: false, lead_days: 4, how_far: null, there: "2026-07-17" },
      ],
      surplus: [{ part: "tube", words: "steel tube", count: 1, how_far: "ordered" }],
    }); // prettier-ignore
    await userEvent.click(screen.getAllByRole("button", { name: "Is in the way" })[0] as Element);
    expect(say.mock.calls[0]?.[0]).toMatchObject({
      how: "keep",
      said: { access: [{ id: "a1", name: "bumper", kind: "bumper", hours_off: 0.5 }] },
    });
    await userEvent.click(screen.getAllByRole("button", { name: "Look over" })[0] as Element);
    expect(say.mock.calls[1]?.[0]).toMatchObject({
      said: { extras: [{ do: "look_at", part: "pan" }] },
    });
    await userEvent.selectOptions(
      screen.getAllByLabelText("How far: rubber gate")[0] as Element,
      "arrived",
    );
    expect(mutate).toHaveBeenCalledWith({ part: "gate_rubber", how_far: "arrived" });
    expect(document.querySelector("[data-surplus]")?.textContent).toContain(
      "1 steel tube (ordered)",
    );
  });
});
