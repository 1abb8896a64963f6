// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { BuildDocument } from "../api/queries";
import { DUNLIN } from "../testing/documents";
import { show } from "../testing/shown";
import { PlateNumbers } from "./PlateNumbers";
import { ZoneNumbers } from "./ZoneNumbers";

const onType = vi.fn(() => Promise.resolve());
const press = (name: string): Promise<void> =>
  userEvent.click(screen.getByRole("button", { name }));

function zone(index: number) {
  const onReplace = vi.fn();
  show(<ZoneNumbers document={DUNLIN} index={index} {...{ onType, onReplace }} />);
  return () => (onReplace.mock.lastCall as [BuildDocument, string])[0].pan.zones;
}

describe("ZoneNumbers", () => {
  it("moves a shared edge in both zones", async () => {
    zone(0);
    const field = screen.getByLabelText("Rear edge, ahead of the rear face");
    await userEvent.clear(field);
    await userEvent.type(field, "220{Enter}");
    const [fields, typed] = onType.mock.lastCall as unknown as [string[], string];
    expect(typed).toBe("220");
    expect(fields.filter((path) => path.startsWith("pan.zones.z4."))).toHaveLength(2);
    expect(fields.filter((path) => path.startsWith("pan.zones.z5."))).toHaveLength(2);
  });
  it("makes a flat floor a ramp of the same depth", async () => {
    const zones = zone(0);
    await userEvent.selectOptions(screen.getByLabelText("Floor"), "lengthways");
    expect(zones()[0]?.floor).toEqual({
      kind: "ramp",
      runs: "lengthways",
      from_depth_mm: 138,
      to_depth_mm: 138,
    });
  });
  it("closes a zone above and opens it again", async () => {
    const closed = zone(0);
    await press("Close it above");
    expect(closed()[0]?.ceiling_depth_mm).toBe(69);
  });
  it("opens a side box to the rail, and takes it away", async () => {
    const zones = zone(3);
    expect(screen.getByText("side box")).toBeTruthy();
    await press("Open it to the rail");
    expect(zones()[3]?.ceiling_depth_mm).toBeNull();
    await press("Remove kick-out");
    expect(zones()).toHaveLength(3);
  });
  it("says what draft does once there is some", () => {
    const zones = DUNLIN.pan.zones.map((each) => ({ ...each, draft_deg: 3 }));
    const drafted = { ...DUNLIN, pan: { ...DUNLIN.pan, zones } };
    show(<ZoneNumbers document={drafted} index={0} onType={onType} onReplace={vi.fn()} />);
    expect(screen.getByText(/lean inward toward the floor/)).toBeTruthy();
  });
  it("adds a corner between the last and the first, and takes it back", async () => {
    const zones = zone(0);
    await press("Add a corner");
    expect(zones()[0]?.outline_mm).toHaveLength(5);
  });
  it("shows nothing of a zone that is not there", () => {
    const { container } = show(
      <ZoneNumbers document={DUNLIN} index={9} onType={onType} onReplace={vi.fn()} />,
    );
    expect(container.textContent).toBe("");
  });
});

describe("PlateNumbers", () => {
  function plates() {
    const onReplace = vi.fn();
    show(<PlateNumbers document={DUNLIN} drawing={null} {...{ onType, onReplace }} />);
    return () => (onReplace.mock.lastCall as [BuildDocument, string])[0].pan.plates;
  }
  const inside = (name: string) =>
    within(
      screen.getByText(name, { selector: "summary *, summary" }).closest("details") ??
        document.body,
    );

  it("makes a level plate the windage tray", async () => {
    const kept = plates();
    await userEvent.selectOptions(inside("lid").getByLabelText("It is"), "windage_tray");
    expect(kept()[4]).toMatchObject({ kind: "horizontal", role: "windage_tray", name: "lid" });
  });
  it("turns a gate the other way and takes it out", async () => {
    const kept = plates();
    await userEvent.selectOptions(inside("P1").getByLabelText("Gate"), "left");
    expect(kept()[0]).toMatchObject({ openings: [{ gate: { swings: "left" } }] });
    await userEvent.selectOptions(inside("P1").getByLabelText("Gate"), "none");
    expect(kept()[0]).toMatchObject({ openings: [{ gate: null }] });
  });
  it("changes a leaf to metal and keeps the rest of the gate", async () => {
    const kept = plates();
    await userEvent.selectOptions(inside("R1").getByLabelText("Leaf"), "metal");
    expect(kept()[1]).toMatchObject({
      openings: [{ gate: { leaf: "metal", swings: "right", leak_pct: 4 } }],
    });
  });
});
