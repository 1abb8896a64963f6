// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { RecordOf } from "../../api/records";
import { DUNLIN_BUILD } from "../../testing/documents";
import { keptOf } from "../../testing/kept";
import { SETTINGS } from "../../testing/settings";
import { show } from "../../testing/shown";
import { HoldVolume } from "./HoldVolume";
import { Inspection } from "./Inspection";

const calls = vi.hoisted(() => ({
  photo: vi.fn(),
  depth: { mutate: vi.fn(), reset: vi.fn(), data: undefined as { by_mm: number } | undefined },
}));
vi.mock("../../api/photos", () => ({
  photoAddress: (build: number, token: string) => `/photos/${build}/${token}`,
  useAddPhoto: () => ({ mutate: calls.photo, isPending: false, error: null }),
  useDepthFor: () => ({ ...calls.depth, isPending: false, error: null }),
}));

type Row = RecordOf<"inspection">;
const bare = (item: string, photos: string[] = []): Row => ({
  kind: "inspection",
  item,
  found: "not_looked",
  note: "",
  photos,
});
const FLAT = bare("Flatness of the rail");
const CRACK = bare("Cracks", ["abcdefgh"]);

function inspected(rows: Row[], system: "metric" | "us" = "metric") {
  const kept = keptOf("inspection", rows);
  const inspectionItems = rows.length > 0 ? [] : SETTINGS.inspectionItems;
  show(<Inspection buildId={7} kept={kept} />, { ...SETTINGS, system, inspectionItems });
  return kept.put;
}

beforeEach(() => vi.clearAllMocks());

describe("Inspection", () => {
  it("begins with what the trade looks at, and keeps what is found of it", async () => {
    const put = inspected([]);
    await userEvent.click(screen.getByRole("button", { name: "Begin the inspection" }));
    expect(screen.getByText("1 of 1 still to look at.")).toBeTruthy();
    expect(put).not.toHaveBeenCalled();
    await userEvent.selectOptions(screen.getByLabelText("Found: Cracks along the rail"), "sound");
    expect(put).toHaveBeenCalledExactlyOnceWith(
      { ...bare("Cracks along the rail"), found: "sound" },
      undefined,
    );
  });

  it("counts what is left", () => {
    inspected([FLAT, { ...CRACK, found: "sound" }]);
    expect(screen.getByText("1 of 2 still to look at.")).toBeTruthy();
    expect(screen.getAllByText(/ada, 25 Nov 2026, on state 3/)).toHaveLength(2);
  });

  it("writes finding, note and flatness of the one that is meant anew", async () => {
    const put = inspected([FLAT, CRACK]);
    await userEvent.selectOptions(screen.getByLabelText("Found: Cracks"), "replace");
    expect(put).toHaveBeenLastCalledWith({ ...CRACK, found: "replace" }, 2);
    await userEvent.type(screen.getByLabelText("Note on Cracks"), "at the third bolt");
    await userEvent.tab();
    expect(put).toHaveBeenLastCalledWith({ ...CRACK, note: "at the third bolt" }, 2);
    await userEvent.type(screen.getByLabelText(/off flat by/), "0,15");
    await userEvent.tab();
    expect(put).toHaveBeenLastCalledWith({ ...FLAT, off_flat_mm: 0.15 }, 1);
  });

  it("takes flatness in inches where inches are in use", async () => {
    const put = inspected([FLAT], "us");
    await userEvent.type(screen.getByLabelText(/off flat by/), "0.006");
    await userEvent.tab();
    expect(put.mock.lastCall?.[0].off_flat_mm).toBeCloseTo(0.1524);
  });

  it("puts a photo's token beside what it shows, and takes it out again", async () => {
    const put = inspected([FLAT, CRACK]);
    await userEvent.upload(
      screen.getByLabelText("Photo of Cracks"),
      new File(["x"], "crack.png", { type: "image/png" }),
    );
    const [, then] = calls.photo.mock.lastCall as [
      File,
      { onSuccess: (made: { token: string }) => void },
    ];
    then.onSuccess({ token: "newphoto1" });
    expect(put.mock.lastCall?.[0].photos).toEqual(["abcdefgh", "newphoto1"]);
    await userEvent.click(screen.getByRole("img", { name: "Photo 1: Cracks" }));
    await userEvent.click(screen.getByRole("button", { name: "Take this photo out" }));
    expect(put.mock.lastCall?.[0].photos).toEqual([]);
  });
});

describe("HoldVolume", () => {
  function hold(by_mm?: number, system: "metric" | "us" = "metric") {
    calls.depth.data = by_mm === undefined ? undefined : { by_mm };
    const onDeepen = vi.fn();
    show(<HoldVolume build={DUNLIN_BUILD} capacityL={10.5} onDeepen={onDeepen} />, {
      ...SETTINGS,
      system,
    });
    return onDeepen;
  }

  it("asks for the volume it holds now, in the floors that may give way", async () => {
    hold();
    await userEvent.click(screen.getByLabelText("kick-out"));
    await userEvent.click(screen.getByRole("button", { name: "Offer a depth" }));
    expect(calls.depth.mutate).toHaveBeenCalledExactlyOnceWith({
      capacity_l: 10.5,
      zones: ["z4", "z7"],
    });
  });

  it("asks in quarts where quarts are in use", async () => {
    hold(undefined, "us");
    const field = screen.getByLabelText("Volume to hold to the rail");
    await userEvent.clear(field);
    await userEvent.type(field, "12");
    await userEvent.click(screen.getByRole("button", { name: "Offer a depth" }));
    const [asked] = calls.depth.mutate.mock.lastCall as [{ capacity_l: number }];
    expect(asked.capacity_l).toBeCloseTo(12 * 0.946352946);
  });

  it("keeps the figure that one is typing over, should the pan hold another meanwhile", async () => {
    const props = { build: DUNLIN_BUILD, onDeepen: vi.fn() };
    const { rerender } = show(<HoldVolume {...props} capacityL={10.5} />);
    const field = screen.getByLabelText("Volume to hold to the rail");
    await userEvent.click(field);
    rerender(<HoldVolume {...props} capacityL={8.2} />);
    expect(field).toHaveProperty("value", "10.5");
    await userEvent.tab();
    expect(field).toHaveProperty("value", "8.2");
    await userEvent.clear(field);
    await userEvent.type(field, "8.2");
    await userEvent.tab();
    rerender(<HoldVolume {...props} capacityL={9.1} />);
    expect(field).toHaveProperty("value", "8.2");
  });

  it("offers a depth and does it when told", async () => {
    const onDeepen = hold(12.3);
    expect(screen.getByRole("status").textContent).toContain("12 mm deeper holds it.");
    await userEvent.click(screen.getByRole("button", { name: "Do that" }));
    expect(onDeepen).toHaveBeenCalledExactlyOnceWith("12.3 mm", ["z4"]);
  });

  it("says so when nothing is to be done, and asks nothing without a floor or a number", async () => {
    hold(0);
    expect(screen.getByRole("status").textContent).toContain("It holds that as it is.");
    await userEvent.click(screen.getByLabelText("deep sump"));
    expect(screen.getByRole("button", { name: "Offer a depth" })).toHaveProperty("disabled", true);
  });
});
