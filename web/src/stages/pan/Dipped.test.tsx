// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactElement } from "react";
import { describe, expect, it, vi } from "vitest";
import type { PanFigures } from "../../api/queries";
import type { RecordOf } from "../../api/records";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { keptOf } from "../../testing/kept";
import { show } from "../../testing/shown";
import { Deepen } from "./Deepen";
import { Dipped } from "./Dipped";

const NONE = { rms_mm: null, explanations: [], dips: [] } as unknown as PanFigures;
const onType = vi.fn(() => Promise.resolve());

type Poured = RecordOf<"poured">;

function dipped(part: Omit<Poured, "kind"> | null, pan: PanFigures = NONE) {
  const kept = keptOf("poured", part ? [{ kind: "poured", ...part }] : []);
  show(<Dipped {...{ kept, pan }} litres={2.04} heightMm={33.4} />);
  return kept;
}

describe("Dipped", () => {
  it("says how to begin, and adds a dip at the fill shown", async () => {
    const { put } = dipped(null);
    expect(screen.getByText(/Pour oil in a litre at a time/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Add a dip at this fill" }));
    expect(put).toHaveBeenCalledExactlyOnceWith(
      { kind: "poured", engine: "level", points: [{ poured_l: 2, level_mm: 33 }] },
      undefined,
    );
  });
  it("writes anew how the engine stood, and strikes a dip out", async () => {
    const points = [
      { poured_l: 1, level_mm: 17 },
      { poured_l: 2, level_mm: 33 },
    ];
    const { put, keep } = dipped({ engine: "level", points });
    expect(screen.getByText(/ada, 25 Nov 2026, on state 3/)).toBeTruthy();
    await userEvent.selectOptions(
      screen.getByLabelText("How the engine stood when it was dipped"),
      "in_car",
    );
    expect(put).toHaveBeenLastCalledWith({ kind: "poured", engine: "in_car", points }, 1);
    await userEvent.click(screen.getByRole("button", { name: "Strike dip 1" }));
    expect(put.mock.lastCall?.[0].points).toEqual([points[1]]);
    const [, second] = screen.getAllByLabelText("Dipped");
    await userEvent.clear(second as HTMLElement);
    await userEvent.type(second as HTMLElement, "1.5 in{Enter}");
    expect(keep.mock.lastCall?.[0].points[1]).toEqual({ poured_l: 2, level_mm: "1.5 in" });
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
  it("says the spacer as it is, and the bolts' length only once somebody measured it", async () => {
    const onReplace = vi.fn();
    const fitted = (bolt: number | null): ReactElement => {
      const pan = { ...DUNLIN.pan, spacer_mm: 6.35, bolt_length_mm: bolt };
      const build = { ...DUNLIN_BUILD, document: { ...DUNLIN, pan } };
      return <Deepen build={build} onAct={vi.fn()} onType={onType} onReplace={onReplace} />;
    };
    const { unmount } = show(fitted(null));
    expect(screen.getByText(/^Spacer of 6.35 mm fitted/).textContent).not.toContain("becomes");
    const field = screen.getByLabelText("Pan bolts without a spacer");
    expect(field).toHaveProperty("value", "");
    await userEvent.type(field, "22{Enter}");
    expect(onType).toHaveBeenLastCalledWith(["pan.bolt_length_mm"], "22");
    unmount();
    show(fitted(22));
    expect(screen.getByText(/22 mm becomes 28.35 mm/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText("Pan bolts without a spacer"));
    await userEvent.tab();
    expect(onReplace.mock.lastCall?.[0]).toHaveProperty("pan.bolt_length_mm", null);
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
