// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { BuildDocument, PanFigures } from "../../api/queries";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { show } from "../../testing/shown";
import { Deepen } from "./Deepen";
import { Dipped } from "./Dipped";

const NONE = { rms_mm: null, explanations: [], dips: [] } as unknown as PanFigures;
const onType = vi.fn(() => Promise.resolve());

function dipped(part: BuildDocument["pan"]["dipped"], pan: PanFigures = NONE) {
  const onReplace = vi.fn();
  const document = { ...DUNLIN, pan: { ...DUNLIN.pan, dipped: part } };
  show(<Dipped {...{ document, pan, onType, onReplace }} litres={2.04} heightMm={33.4} />);
  return () => (onReplace.mock.lastCall as [BuildDocument])[0].pan.dipped;
}

describe("Dipped", () => {
  it("says how to begin, and adds a dip at the fill shown", async () => {
    const kept = dipped(null);
    expect(screen.getByText(/Pour oil in a litre at a time/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Add a dip at this fill" }));
    expect(kept()).toEqual({ engine: "level", points: [{ poured_l: 2, level_mm: 33 }] });
  });
  it("keeps how the engine stood, and strikes a dip out", async () => {
    const points = [
      { poured_l: 1, level_mm: 17 },
      { poured_l: 2, level_mm: 33 },
    ];
    const kept = dipped({ engine: "level", points });
    await userEvent.selectOptions(
      screen.getByLabelText("How the engine stood when it was dipped"),
      "in_car",
    );
    expect(kept()).toEqual({ engine: "in_car", points });
    await userEvent.click(screen.getByRole("button", { name: "Strike dip 1" }));
    expect(kept()?.points).toEqual([points[1]]);
  });
  it("names the dimension that would explain a mismatch, the best first", () => {
    dipped(
      { engine: "level", points: [{ poured_l: 1, level_mm: 20 }] },
      {
        ...NONE,
        rms_mm: 5.2,
        explanations: [
          { what: "depth of deep sump", change_mm: 10, rms_mm: 0.4 },
          { what: "dipstick's zero", change_mm: -4, rms_mm: 2 },
        ],
      },
    );
    expect(screen.getByText(/differ by 5.2 mm in the mean/)).toBeTruthy();
    expect(screen.getByText(/The depth of deep sump more by 10 mm would/)).toBeTruthy();
    expect(screen.getByText(/Or: dipstick's zero −4 mm/)).toBeTruthy();
  });
  it("says that they agree", () => {
    dipped({ engine: "level", points: [{ poured_l: 1, level_mm: 17 }] }, { ...NONE, rms_mm: 0.8 });
    expect(screen.getByText(/they agree/)).toBeTruthy();
  });
});

describe("Deepen", () => {
  function deepen() {
    const onAct = vi.fn(() => Promise.resolve({ ...DUNLIN_BUILD, undo: "spacer, 6 mm" }));
    show(<Deepen build={DUNLIN_BUILD} onAct={onAct} onType={onType} onReplace={vi.fn()} />);
    return onAct;
  }
  it("lowers all of the pan by a spacer, and says what it did", async () => {
    const onAct = deepen();
    await userEvent.click(screen.getByRole("button", { name: "Lower it" }));
    expect(onAct).toHaveBeenCalledExactlyOnceWith({
      kind: "spacer",
      by_mm: "6 mm",
    });
    expect((await screen.findByRole("status")).textContent).toBe("spacer, 6 mm");
  });
  it("lowers some of it", async () => {
    const onAct = deepen();
    await userEvent.click(screen.getByLabelText("only"));
    await userEvent.click(screen.getByLabelText("kick-out"));
    await userEvent.click(screen.getByRole("button", { name: "Lower it" }));
    expect(onAct).toHaveBeenCalledWith(expect.objectContaining({ zones: ["z4", "z7"] }));
  });
  it("does nothing without a zone, and says a refusal", async () => {
    const onAct = deepen();
    await userEvent.click(screen.getByLabelText("only"));
    await userEvent.click(screen.getByLabelText("deep sump"));
    expect(screen.getByRole("button", { name: "Lower it" })).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByLabelText("deep sump"));
    onAct.mockRejectedValueOnce(new Error("under the ground"));
    await userEvent.click(screen.getByRole("button", { name: "Lower it" }));
    expect((await screen.findByText("under the ground")).className).toContain("text-bad");
  });
});
