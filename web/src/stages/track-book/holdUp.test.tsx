// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import * as learning from "../../api/learning";
import { DUNLIN_BUILD } from "../../testing/documents";
import { showInBuild, viewOf } from "../../testing/view";
import { HoldUp } from "./HoldUp";
import { trialOf } from "./holdUpTyped";

describe("a trial as it is typed", () => {
  it("is read with a comma or a point, and leaves free rows out", () => {
    expect(
      trialOf(
        "h1",
        "103,5",
        [
          ["3000", "92.5"],
          ["", ""],
        ],
        [["10", "97"]],
      ),
    ).toMatchObject({
      kind: "hold_up",
      standing_mm: 103.5,
      running: [{ rpm: 3000, level_mm: 92.5 }],
      after: [{ seconds: 10, level_mm: 97 }],
    });
  });

  it("takes a figure at either end of its limits", () => {
    const ends: readonly (readonly [string, string])[] = [
      ["300", "0"],
      ["15000", "600"],
    ];
    expect(trialOf("h1", "600", ends, [["3600", "600"]])).toMatchObject({ standing_mm: 600 });
    expect(trialOf("h1", "0", ends, [["0", "0"]])).toMatchObject({ standing_mm: 0 });
  });

  it.each([
    ["", [["3000", "92"]], [], "Level with all of it back is still to be filled in"],
    ["601", [["3000", "92"]], [], "Level with all of it back: 0 to 600 mm"],
    ["100", [], [], "Engine at, with its level, is still to be filled in"],
    ["-1", [["3000", "92"]], [], "Level with all of it back: 0 to 600 mm"],
    ["100", [["15001", "92"]], [], "Engine at: 300 to 15000 rpm, each with a level of 0 to 600 mm"],
    ["100", [["299", "92"]], [], "Engine at: 300 to 15000 rpm, each with a level of 0 to 600 mm"],
    ["100", [["3000", ""]], [], "Engine at: 300 to 15000 rpm, each with a level of 0 to 600 mm"],
    [
      "100",
      [["3000", "92"]],
      [["3601", "92"]],
      "Off for: 0 to 3600 s, each with a level of 0 to 600 mm",
    ],
  ] as const)(
    "says what is wrong, and what would be right: %s %s %s",
    (standing, running, after, what) => {
      expect(trialOf("h1", standing, running, after)).toBe(what);
    },
  );
});

describe("the guided trial", () => {
  it("shows its cautions before its figures, and writes what was typed", async () => {
    const write = vi.fn();
    showInBuild(<HoldUp trials={[]} onWrite={write} />, viewOf());
    await userEvent.click(screen.getByRole("button", { name: "Measure it" }));
    expect(screen.getByText(/Exhaust gas kills/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText("Level with all of it back, mm"), "103");
    await userEvent.type(screen.getByLabelText("Engine at, rpm"), "3000");
    await userEvent.type(screen.getByLabelText("Level, mm"), "92");
    await userEvent.type(screen.getByLabelText("Engine at, rpm, 2"), "5000");
    await userEvent.type(screen.getByLabelText("Level, mm, 2"), "88");
    await userEvent.click(screen.getByRole("button", { name: "Write the trial down" }));
    expect(write.mock.calls[0]?.[0]).toMatchObject({
      standing_mm: 103,
      running: [
        { rpm: 3000, level_mm: 92 },
        { rpm: 5000, level_mm: 88 },
      ],
    });
  });

  it("tells what was found beside what was thought", () => {
    const at = [{ rpm: 3000, held_l: 1.4, give_l: 0.1, thought_l: 1.1, more_l: 0.3 }];
    const trial = trialOf("h1", "103", [["3000", "92"]], []);
    if (typeof trial === "string") throw new Error(trial);
    const told = {
      trial,
      by: "MK",
      at,
      more_l: 0.3,
      give_l: 0.08,
      returns_s: 12,
      words: "0.30 L more than the forecast has.",
    };
    showInBuild(<HoldUp trials={[told]} onWrite={vi.fn()} />, viewOf());
    expect(screen.getByText(/back in 12 s/)).toBeTruthy();
    expect(screen.getByRole("row", { name: /3000/ }).textContent).toContain("1.1");
  });

  it("lets forecasts rest on it, once", async () => {
    const trial = trialOf("h1", "103", [["3000", "92"]], []);
    if (typeof trial === "string") throw new Error(trial);
    const told = { trial, by: "MK", at: [], more_l: 0.3, give_l: 0.08, returns_s: null, words: "" };
    const mutate = vi.fn();
    vi.spyOn(learning, "useTakeHeldUp").mockReturnValue({ mutate } as never);
    const page = showInBuild(<HoldUp trials={[told]} onWrite={vi.fn()} />, viewOf());
    expect(screen.getByText(/0.30 ± 0.08 L more than thought/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Let forecasts rest on it" }));
    expect(mutate).toHaveBeenCalledWith("h1");
    page.unmount();
    const found = { value: 0.28, give: 0.08, source: `hold-up trial, ${trial.on}` };
    const build = { ...DUNLIN_BUILD, document: { ...DUNLIN_BUILD.document } };
    build.document.learned = { up_top_more_l: found, sealing_pct: null, gauge_lag_s: null };
    showInBuild(<HoldUp trials={[told]} onWrite={vi.fn()} />, viewOf({ build }));
    expect(screen.getByText("Forecasts rest on it.")).toBeTruthy();
  });
});
