// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { BuildDocument, PanFigures } from "../api/queries";
import { ofKind, pumpOf, reliefOf, suctionOf, withComponent, withRun } from "./circuit/circuit";
import { DUNLIN } from "../testing/documents";
import { show } from "../testing/shown";
import { showInBuild, viewOf } from "../testing/view";
import { AroundNumbers, GapList } from "./AroundNumbers";
import { FittedNumbers } from "./FittedNumbers";
import { OilNumbers } from "./OilNumbers";
import { deepest, keepOutSpecs, newBoss, USUAL_KEEP_OUTS } from "./parts";
import { PickupNumbers } from "./PickupNumbers";
import { Preset } from "./Preset";
import { PumpNumbers } from "./PumpNumbers";

const onType = vi.fn(() => Promise.resolve());

/** The document that the last replacement made, and what it was called. */
function last(onReplace: ReturnType<typeof vi.fn>): [BuildDocument, string] {
  return onReplace.mock.lastCall as [BuildDocument, string];
}
const press = (name: string): Promise<void> =>
  userEvent.click(screen.getByRole("button", { name }));

describe("bosses", () => {
  it("put a plug at the deepest floor and a dipstick at the rail", () => {
    expect(deepest(DUNLIN.pan)).toBe(138);
    expect(newBoss(DUNLIN, "drain_plug", "p").depth_mm).toBe(138);
    expect(newBoss(DUNLIN, "dipstick", "d").depth_mm).toBe(0);
  });
});

describe("keep-outs", () => {
  it("ask for the figures of their shape", () => {
    const shapes = USUAL_KEEP_OUTS.map(({ make }) => make());
    for (const each of shapes) {
      const keys = keepOutSpecs(each).map(({ key }) => key);
      expect(keys).toContain("wanted_mm");
      expect(keys.includes("diameter_mm")).toBe(each.kind === "cylinder");
      expect(keys.includes("from_mm.2")).toBe(each.kind !== "plane");
      expect(keys.includes("free")).toBe(each.kind === "plane");
    }
  });
  it("are added under a name that is free, and removed", async () => {
    const onReplace = vi.fn();
    show(<AroundNumbers document={DUNLIN} pan={undefined} {...{ onType, onReplace }} />);
    await press("Subframe");
    expect(last(onReplace)[0].car.keep_outs.map(({ name }) => name)).toEqual([
      "subframe",
      "steering rack",
      "exhaust",
      "subframe 2",
    ]);
    await press("Remove exhaust");
    expect(last(onReplace)[0].car.keep_outs).toHaveLength(2);
    expect(last(onReplace)[1]).toBe("exhaust removed");
  });
  it("list their gaps with a word for what is short", () => {
    const clearances = [
      { name: "exhaust", index: 0, gap_mm: 19, wanted_mm: 25 },
      { name: "rack", index: 1, gap_mm: -3, wanted_mm: 5 },
    ];
    const starter = USUAL_KEEP_OUTS.map(({ make }) => make()).find(
      ({ name }) => name === "starter",
    );
    if (!starter) throw new Error("no starter");
    const pan = { clearances } as unknown as PanFigures;
    show(<GapList pan={pan} keepOuts={[{ ...starter, name: "rack", assumed: false }, starter]} />);
    expect(screen.getByText("19 mm")).toBeTruthy();
    expect(screen.getByText("3 mm into it")).toBeTruthy();
    expect(screen.getByText("starter").parentElement?.textContent).toContain("not measured");
    expect(screen.getByText("rack").parentElement?.textContent).not.toContain("not measured");
  });
  it("say what to measure while there is no crank", async () => {
    const onReplace = vi.fn();
    const without = { ...DUNLIN, car: { ...DUNLIN.car, crank: null } };
    show(<AroundNumbers document={without} pan={undefined} {...{ onType, onReplace }} />);
    await press("Put the crank in");
    expect(last(onReplace)[0].car.crank?.swept_radius_mm).toBe(80);
  });
});

vi.mock("./GaugeReadings", () => ({ GaugeReadings: () => null }));

describe("oil", () => {
  const bare = (): BuildDocument => ({
    ...DUNLIN,
    oil: { ...DUNLIN.oil, mark_l: null },
    circuit: {
      ...DUNLIN.circuit,
      components: DUNLIN.circuit.components.map((part) => ({ ...part, holds_l: null })),
    },
  });
  it("is said component by component, and its sum is no figure of its own then", () => {
    show(<OilNumbers document={DUNLIN} onType={onType} onReplace={vi.fn()} />);
    expect(screen.queryByLabelText("Away from the pan")).toBeNull();
    expect(screen.getByText("Away from the pan: 2.1 L in 5 places")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("filter").value).toBe("0.35");
    expect(screen.getByLabelText<HTMLInputElement>(/^crankcase, oil on its way/).value).toBe(
      "0.45",
    );
  });
  it("takes back what a component was said to hold", async () => {
    const onReplace = vi.fn();
    show(<OilNumbers document={DUNLIN} {...{ onType, onReplace }} />);
    await userEvent.clear(screen.getByLabelText("filter"));
    await userEvent.tab();
    const [next] = last(onReplace);
    expect(ofKind(next.circuit, "filter")[0]?.holds_l).toBeNull();
  });
  it("begins its places with all that is away", async () => {
    const onReplace = vi.fn();
    show(<OilNumbers document={bare()} {...{ onType, onReplace }} />);
    await press("Say it place by place");
    expect(ofKind(last(onReplace)[0].circuit, "crankcase")[0]?.holds_l).toBe(2.1);
  });
  it("asks how much it holds at the mark, and takes it back", async () => {
    const onReplace = vi.fn();
    const oil = { ...DUNLIN.oil, mark_l: null };
    const shown = show(
      <OilNumbers document={{ ...DUNLIN, oil }} onType={onType} onReplace={onReplace} />,
    );
    const mark = (): HTMLInputElement => screen.getByLabelText("At the mark");
    expect(mark().placeholder).toBe("not known");
    await userEvent.type(mark(), "5.4{Enter}");
    expect(onType).toHaveBeenLastCalledWith(["oil.mark_l"], "5.4");
    const told = { ...DUNLIN, oil: { ...oil, mark_l: 5.4 } };
    shown.rerender(<OilNumbers document={told} onType={onType} onReplace={onReplace} />);
    await userEvent.clear(mark());
    await userEvent.tab();
    expect(last(onReplace)[0].oil.mark_l).toBeNull();
  });
  it("says how much stands over the mark", () => {
    const oil = { ...DUNLIN.oil, volume_l: 7.2, mark_l: 6.2 };
    show(<OilNumbers document={{ ...DUNLIN, oil }} onType={onType} onReplace={vi.fn()} />);
    expect(screen.getByText("1.0 L over the mark")).toBeTruthy();
  });
});

describe("the pump", () => {
  const mutateAsync = vi.fn<(edit: unknown) => Promise<void>>(() => Promise.resolve());
  const edit = { mutateAsync, reset: vi.fn() } as never;
  const shown = (document: BuildDocument, onReplace: () => void) =>
    showInBuild(<PumpNumbers document={document} {...{ onType, onReplace }} />, viewOf({ edit }));
  it("is known by a flow or by its displacement, not by both", async () => {
    const onReplace = vi.fn();
    const pump = shown(DUNLIN, onReplace);
    await press("It is known by a flow instead");
    expect(screen.getByText(/90 % where it is not known/)).toBeTruthy();
    const take = screen.getByRole<HTMLButtonElement>("button", { name: "Take this flow" });
    await userEvent.type(screen.getByLabelText("It delivered"), "10 gpm");
    expect(take.disabled).toBe(true); // the speed is asked, and not put in
    await userEvent.type(screen.getByLabelText("at an engine speed of"), "6000");
    await userEvent.click(take);
    const path = `circuit.components.${pumpOf(DUNLIN).id}.flow_point`;
    expect(mutateAsync.mock.lastCall?.[0]).toMatchObject({
      act: {
        kind: "figures",
        figures: [
          { field: `${path}.flow_l_min`, value: "10 gpm" },
          { field: `${path}.engine_rpm`, value: "6000" },
        ],
      },
    });
    expect(screen.queryByRole("button", { name: "Take this flow" })).toBeNull();
    const flow_point = { flow_l_min: 37.85, engine_rpm: 6000, filling_pct: 90 };
    const byFlow = withComponent(DUNLIN, pumpOf(DUNLIN).id, { flow_point });
    pump.unmount();
    shown(byFlow, onReplace);
    expect(screen.queryByLabelText("Displacement per turn")).toBeNull();
    await press("Give the displacement itself");
    expect(pumpOf(last(onReplace)[0]).flow_point).toBeNull();
  });
  it("has one stage or two", async () => {
    const onReplace = vi.fn();
    const pump = shown(DUNLIN, onReplace);
    await press("It has two stages");
    await userEvent.type(screen.getByLabelText("Low mode, per turn"), "7");
    await userEvent.type(screen.getByLabelText("Low mode below"), "2100");
    await press("Take this low mode"); // where its relief opens then may be unknown
    const path = `circuit.components.${pumpOf(DUNLIN).id}.low_stage`;
    expect(mutateAsync.mock.lastCall?.[0]).toMatchObject({
      act: {
        figures: [
          { field: `${path}.displacement_cm3`, value: "7" },
          { field: `${path}.up_to_rpm`, value: "2100" },
        ],
      },
    });
    const low_stage = { displacement_cm3: 7, up_to_rpm: 2100, relief_bar: null, unplugged: false };
    const two = withComponent(DUNLIN, pumpOf(DUNLIN).id, { low_stage });
    pump.unmount();
    shown(two, onReplace);
    await press("It has one stage");
    expect(pumpOf(last(onReplace)[0]).low_stage).toBeNull();
  });
  it("has a relief whose opening may not be known", async () => {
    const onReplace = vi.fn();
    shown(DUNLIN, onReplace);
    await userEvent.clear(screen.getByLabelText("Relief opens at"));
    await userEvent.tab();
    expect(reliefOf(last(onReplace)[0])?.opens_bar).toBeNull();
  });
});

describe("the pickup", () => {
  const tubeOf = (document: BuildDocument) => {
    const line = suctionOf(document)?.line;
    return line?.kind === "hard_line" ? line : undefined;
  };
  it("asks for a tube that is not known", () => {
    const run = suctionOf(DUNLIN);
    const line = { kind: "hard_line" as const, bends: [], sleeve: false };
    const document = withRun(DUNLIN, run?.id ?? "", { line });
    show(<PickupNumbers document={document} onType={onType} onReplace={vi.fn()} />);
    expect(screen.queryByRole("button", { name: "A screen" })).toBeNull();
    const bore = screen.getByLabelText<HTMLInputElement>("Tube's bore");
    expect([bore.value, bore.placeholder]).toEqual(["", "not known"]);
    expect(screen.getByText("A straight tube.")).toBeTruthy();
  });
  it("adds a bend without the number it is shown by", async () => {
    const onReplace = vi.fn();
    show(<PickupNumbers document={DUNLIN} {...{ onType, onReplace }} />);
    await press("Add a bend");
    expect(tubeOf(last(onReplace)[0])?.bends[1]).toEqual({ angle_deg: 90, radius_mm: 40 });
  });
  it("notes a new seal", async () => {
    const onReplace = vi.fn();
    show(<PickupNumbers document={DUNLIN} {...{ onType, onReplace }} />);
    await userEvent.selectOptions(screen.getByLabelText("That seal is"), "reused");
    expect(suctionOf(last(onReplace)[0])?.end).toMatchObject({ seal: "o_ring", age: "reused" });
    await userEvent.selectOptions(screen.getByLabelText("Joint at the pump, sealed by"), "");
    expect(suctionOf(last(onReplace)[0])?.end.seal).toBeNull();
  });
});

describe("what is fitted", () => {
  const fitted = (document: BuildDocument) => {
    const [onReplace, onAct] = [vi.fn(), vi.fn()];
    show(<FittedNumbers {...{ document, onType, onReplace, onAct }} />);
    return { onReplace, onAct };
  };
  it("asks how thick the wall is, and puts in none of its own", async () => {
    const { onReplace } = fitted({ ...DUNLIN, pan: { ...DUNLIN.pan, sheet_mm: null } });
    const wall = screen.getByLabelText<HTMLInputElement>("Wall's thickness");
    expect([wall.value, wall.placeholder]).toEqual(["", "not known"]);
    await userEvent.type(wall, "1.5{Enter}");
    expect(onType).toHaveBeenLastCalledWith(["pan.sheet_mm"], "1.5");
    expect(onReplace).not.toHaveBeenCalled();
  });
  it("adds bosses of each kind", async () => {
    const { onReplace } = fitted(DUNLIN);
    await press("Turbo drain");
    expect(last(onReplace)[0].pan.bosses.at(-1)).toMatchObject({
      kind: "turbo_drain",
      name: "turbo drain",
    });
    await press("Drain plug");
    expect(last(onReplace)[0].pan.bosses.at(-1)?.name).toBe("drain plug 2");
  });
  it("asks the server to lay out a flange, as typed", async () => {
    const { onAct } = fitted(DUNLIN);
    const width = screen.getByLabelText("Width from the rail");
    await userEvent.clear(width);
    await userEvent.type(width, "3/4 in");
    await press("Lay it out");
    expect(onAct).toHaveBeenCalledExactlyOnceWith({
      kind: "flange",
      width_mm: "3/4 in",
      spacing_mm: "80 mm",
      hole_mm: "7 mm",
      thickness_mm: "6 mm",
    });
  });
  it("shows a flange that is there, and lays it out anew", async () => {
    const bolts = [{ x_mm: 0, y_mm: 0, diameter_mm: 7 }];
    const flange = { outline_mm: [] as [number, number][], thickness_mm: 6, bolts };
    const { onReplace } = fitted({ ...DUNLIN, pan: { ...DUNLIN.pan, flange } });
    expect(screen.getByText("1 bolt hole")).toBeTruthy();
    await press("Lay it out anew");
    expect(last(onReplace)[0].pan.flange).toBeNull();
  });
  it("adds marks and a scraper along the crank", async () => {
    const { onReplace } = fitted(DUNLIN);
    await press("Add a mark");
    expect(last(onReplace)[0].pan.dip_marks).toHaveLength(3);
    await press("Add a scraper");
    expect(last(onReplace)[0].pan.scrapers[0]).toMatchObject({ from_x_mm: 40, to_x_mm: 415 });
  });
});

describe("a preset", () => {
  it("is asked for with the depths as typed", async () => {
    const onAct = vi.fn();
    show(<Preset onAct={onAct} />);
    const depth = screen.getByLabelText("Sump's depth");
    await userEvent.clear(depth);
    await userEvent.type(depth, "6 in");
    await press("Sump at the rear");
    expect(onAct).toHaveBeenCalledExactlyOnceWith({
      kind: "sump_preset",
      place: "rear",
      depth_mm: "6 in",
      shelf_mm: "50 mm",
    });
  });
});
