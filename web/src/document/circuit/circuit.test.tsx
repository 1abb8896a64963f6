// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import type { BuildOut } from "../../api/queries";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { showInBuild, viewOf } from "../../testing/view";
import type { BuildView } from "../BuildContext";
import type { Edits } from "../useEdits";
import { isToldApart, ofKind, pumpOf, suctionOf, withComponent, withRun } from "./circuit";
import { CircuitNumbers } from "./CircuitNumbers";
import { actOf, firstOf, FITS, type FitKind } from "./fits";
import { SPECS } from "./specs";

const filter = ofKind(DUNLIN.circuit, "filter")[0];
const told = {
  checks: [
    {
      state: "bad",
      words: "main gallery: the port 'second feed' is open; join it or plug it",
      field: "circuit.components.6",
      mend: null,
      wanted: "shut",
      source: "ours",
    },
  ],
  components: [
    {
      id: ofKind(DUNLIN.circuit, "gallery")[0]?.id,
      name: "main gallery",
      can_go: false,
      ports: [
        {
          key: "feed",
          words: "feed",
          way: "in",
          services: ["pressure"],
          state: "joined",
          takes_many: false,
          joined_to: ["filter"],
          thread: "",
          thread_key: "",
          at_mm: null,
          faces: null,
        },
        {
          key: "second_feed",
          words: "second feed",
          way: "in",
          services: ["pressure"],
          state: "open",
          takes_many: false,
          joined_to: [],
          thread: "taper pipe 1/2, female",
          thread_key: "taper 1/2 female",
          at_mm: null,
          faces: "up",
        },
      ],
    },
    {
      id: ofKind(DUNLIN.circuit, "cooler")[0]?.id,
      name: "cooler and lines",
      can_go: true,
      ports: [],
    },
  ],
  runs: [
    {
      id: suctionOf(DUNLIN)?.id,
      name: "pickup tube",
      start: "pickup",
      end: "oil pump",
      bore_mm: 19,
      contents_l: 0.06,
    },
  ],
  told_apart: true,
  is_dry: false,
  threads: { "taper 1/2 female": "taper pipe 1/2, female", "o_ring 8 female": "O-ring 8, female" },
};

function shown(view: Partial<BuildView> = {}, answer: unknown = told) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  client.setQueryData(["circuit", DUNLIN_BUILD.id, DUNLIN_BUILD.state], answer);
  const edits = {
    fault: null,
    type: vi.fn(),
    act: vi.fn(),
    typeAct: vi.fn(() => Promise.resolve()),
    replace: vi.fn(),
  } as unknown as Edits;
  showInBuild(
    <QueryClientProvider client={client}>
      <CircuitNumbers edits={edits} />
    </QueryClientProvider>,
    viewOf(view),
  );
  return edits;
}

const component = (name: string): HTMLElement => {
  const found = screen.getByText(name, { selector: "summary span" }).closest("details");
  if (!found) throw new Error(name);
  return found;
};

describe("a document's circuit", () => {
  it("is changed one part at a time, and what was edited is assumed no more", () => {
    const gallery = ofKind(DUNLIN.circuit, "breather")[0];
    expect(gallery?.assumed).toBe(true);
    const next = withComponent(DUNLIN, gallery?.id ?? "", { name: "breather of ours" });
    expect(ofKind(next.circuit, "breather")[0]).toMatchObject({
      name: "breather of ours",
      assumed: false,
    });
    expect(pumpOf(next)).toBe(pumpOf(DUNLIN));
    const run = DUNLIN.circuit.runs[0];
    expect(withRun(DUNLIN, run?.id ?? "", { name: "x" }).circuit.runs[0]).toMatchObject({
      name: "x",
      assumed: false,
    });
  });
  it("tells whether what is away is told apart", () => {
    expect(isToldApart(DUNLIN)).toBe(true);
  });
  it("has questions for every kind that is in it", () => {
    for (const { kind } of DUNLIN.circuit.components) expect(SPECS[kind]).toBeDefined();
  });
});

describe("a form", () => {
  it("asks for an act with figures as typed, sizes as numbers and nothing as null", () => {
    const filled = firstOf(FITS.fit_accumulator, "us", DUNLIN.circuit.components);
    expect(actOf("fit_accumulator", FITS.fit_accumulator, filled)).toEqual({
      kind: "fit_accumulator",
      volume_l: "2 qt",
      precharge_bar: null,
      at: null,
      check_valve: true,
      fill_up: true,
      valve: "by_hand",
      dash: 10,
    });
  });
  it("names the first part that it can be done to", () => {
    const head = ofKind(DUNLIN.circuit, "head")[0]?.id;
    const filled = firstOf(FITS.outside_return, "metric", DUNLIN.circuit.components);
    expect(filled.head).toBe(head);
    expect(firstOf(FITS.drain_turbo, "metric", DUNLIN.circuit.components).turbo).toBe("");
  });
  it("is there for every act that fits something", () => {
    for (const kind of Object.keys(FITS) as FitKind[]) expect(FITS[kind].words).not.toBe("");
  });
});

describe("the circuit's numbers", () => {
  it("say whether it checks out, and which figures are a template's", () => {
    shown();
    expect(screen.getByText(/'second feed' is open/)).toBeTruthy();
    expect(within(component("sandwich plate")).getByText("not yours yet")).toBeTruthy();
    expect(within(component("pickup")).queryByText("not yours yet")).toBeNull();
    expect(within(component("filter")).queryByText("not yours yet")).toBeNull();
    expect(within(component("main gallery")).getByText("a port is open")).toBeTruthy();
  });
  it("plug a port that is open, and take out what can be", async () => {
    const edits = shown();
    await userEvent.click(screen.getByRole("button", { name: "Plug second feed", hidden: true }));
    expect(edits.act).toHaveBeenLastCalledWith({
      kind: "plug_port",
      component: told.components[0]?.id,
      port: "second_feed",
      plugged: true,
    });
    await userEvent.click(
      screen.getByRole("button", { name: "take cooler and lines out", hidden: true }),
    );
    expect(edits.act).toHaveBeenLastCalledWith({
      kind: "take_out",
      component: ofKind(DUNLIN.circuit, "cooler")[0]?.id,
    });
    expect(screen.queryByRole("button", { name: "take filter out", hidden: true })).toBeNull();
  });
  it("make of a run what it is made of, and say what it holds", async () => {
    const edits = shown();
    const run = document.querySelector<HTMLElement>(`[data-run="${suctionOf(DUNLIN)?.id ?? ""}"]`);
    if (!run) throw new Error("no run");
    expect(within(run).getByText(/Full it holds 0.06 L/)).toBeTruthy();
    await userEvent.selectOptions(within(run).getByLabelText("Made of"), "hose");
    const [next] = vi.mocked(edits.replace).mock.lastCall ?? [];
    expect(next && suctionOf(next)?.line.kind).toBe("hose");
  });
  it("say where the gauge sits, which decides what a reading means", async () => {
    const edits = shown();
    await userEvent.selectOptions(screen.getByLabelText("The gauge sits at"), "filter");
    expect(edits.act).toHaveBeenLastCalledWith({
      kind: "figures",
      figures: [{ field: "circuit.gauge", value: filter?.id }],
    });
  });
  it("say that a sump is dry", () => {
    shown({}, { ...told, is_dry: true });
    expect(screen.getByText(/their drawing and sizes on Dry sump/)).toBeTruthy();
  });
  it("take a filter's drop as two figures at once, or say that it is not known", async () => {
    const edits = shown();
    const form = within(component("filter"));
    expect(form.getByText("Set what it takes")).toBeTruthy();
    await userEvent.type(form.getByLabelText("Takes, hot and clean"), "6 psi");
    await userEvent.type(form.getByLabelText("at a flow of"), "40");
    await userEvent.click(form.getByText("Set what it takes"));
    const path = `circuit.components.${filter?.id ?? ""}.drop`;
    expect(edits.typeAct).toHaveBeenLastCalledWith({
      kind: "figures",
      figures: [
        { field: `${path}.drop_bar`, value: "6 psi" },
        { field: `${path}.flow_l_min`, value: "40" },
      ],
    });
  });
  it("take thread, way and place of a port that no line ends at", async () => {
    const edits = shown();
    expect(screen.getByText("taper pipe 1/2, female, place not known")).toBeTruthy();
    const port = within(component("main gallery"));
    await userEvent.selectOptions(port.getByLabelText("Thread of the port"), "o_ring 8 female");
    const ofPort = {
      kind: "set_port",
      component: told.components[0]?.id,
      port: "second_feed",
    } as const;
    expect(edits.act).toHaveBeenLastCalledWith({ ...ofPort, thread: "o_ring 8 female" });
    expect(port.getByLabelText<HTMLSelectElement>("It faces").value).toBe("up");
    await userEvent.selectOptions(port.getByLabelText("It faces"), "left");
    expect(edits.act).toHaveBeenLastCalledWith({ ...ofPort, faces: "left" });
    await userEvent.type(port.getByLabelText(/Port, left/), "3 in{Enter}");
    expect(edits.typeAct).toHaveBeenLastCalledWith({ ...ofPort, at_mm: [0, "3 in", 0] });
  });
  it("do an act by its form, and say what was done or why not", async () => {
    const mutateAsync = vi
      .fn()
      .mockRejectedValueOnce(
        new Refusal(422, "refused", [{ field: "act.holds_l", message: "cannot be read" }]),
      )
      .mockResolvedValueOnce({ ...DUNLIN_BUILD, undo: "oil cooler" } satisfies BuildOut);
    shown({
      edit: { mutateAsync, reset: vi.fn(), isPending: false } as unknown as BuildView["edit"],
    });
    await userEvent.click(screen.getByText("Fit or change something"));
    await userEvent.click(screen.getByRole("button", { name: "An oil cooler" }));
    const form = within(screen.getByRole("form", { name: "An oil cooler" }));
    await userEvent.selectOptions(form.getByLabelText("Cooled by"), "plate");
    await userEvent.click(form.getByRole("button", { name: "Fit it" }));
    expect((await form.findByRole("alert")).textContent).toMatch(
      /^Holds with its lines, hot: cannot be read/,
    );
    await userEvent.click(form.getByRole("button", { name: "Fit it" }));
    expect((await screen.findByRole("status")).textContent).toBe("Done: oil cooler.");
    expect(mutateAsync.mock.lastCall?.[0]).toMatchObject({
      act: { kind: "fit_cooler", cooler: "plate", holds_l: "0.6 L", fill_up: true, dash: 10 },
    });
  });
});

describe("one more line", () => {
  const port = (key: string, way: string, services: string[], state: string) => ({
    key,
    words: key,
    way,
    services,
    state,
    takes_many: key === "gas",
    joined_to: [],
  });
  const tee = {
    id: "c9",
    name: "tee",
    can_go: true,
    ports: [
      port("a", "both", ["pressure", "vent"], "joined"),
      port("c", "both", ["pressure", "vent"], "plugged"),
    ],
  };
  const head = {
    id: "c8",
    name: "head",
    can_go: false,
    ports: [port("gas", "both", ["vent"], "joined")],
  };
  it("goes from a free port to one that takes the same", async () => {
    const edits = shown({}, { ...told, components: [...told.components, tee, head] });
    await userEvent.click(screen.getByText("One more line"));
    const from = screen.getByLabelText("From");
    expect(
      within(from)
        .getAllByRole("option")
        .map((each) => each.textContent),
    ).toEqual(["tee: c", "head: gas"]);
    await userEvent.selectOptions(screen.getByLabelText("Hose, size"), "8");
    await userEvent.click(screen.getByRole("button", { name: "Join them" }));
    expect(edits.act).toHaveBeenLastCalledWith({
      kind: "join_ports",
      start: "c9",
      start_port: "c",
      end: told.components[0]?.id,
      end_port: "second_feed",
      service: "pressure",
      made_of: "hose",
      dash: 8,
    });
    await userEvent.selectOptions(screen.getByLabelText("To"), "head: gas");
    await userEvent.click(screen.getByRole("button", { name: "Join them" }));
    expect(edits.act).toHaveBeenLastCalledWith(
      expect.objectContaining({ end: "c8", end_port: "gas", service: "vent" }),
    );
  });
  it("is not offered where nothing is free", () => {
    shown();
    expect(screen.queryByText("One more line")).toBeNull();
  });
});

describe("what the class does not allow", () => {
  it("is said in its form", async () => {
    const car = { ...DUNLIN.car, class_rules: { feed_turbo: "not_allowed" as const } };
    shown({ build: { ...DUNLIN_BUILD, document: { ...DUNLIN, car } } });
    await userEvent.click(screen.getByText("Fit or change something"));
    await userEvent.click(screen.getByRole("button", { name: "A catch can" }));
    expect(screen.queryByText(/Your class does not allow it/)).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "A turbo, fed and drained" }));
    expect(screen.getByText(/Your class does not allow it/)).toBeTruthy();
  });
});

describe("the filter of the demo", () => {
  it("holds what the old document said", () => {
    expect(filter?.holds_l).toBe(0.35);
  });
});
