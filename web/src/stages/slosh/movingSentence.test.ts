import { describe, expect, it } from "vitest";
import type { Moving } from "../../api/runs";
import { SETTINGS } from "../../testing/settings";
import { movingSentence } from "./movingSentence";

const moving = (more: Partial<Moving["samples"]> = {}): Moving =>
  ({
    samples: {
      time_s: [0, 0.02],
      crank_l: [0, 0.3],
      litres: { "behind it": [3.6, 3], "at the pickup": [1, 1.6] },
      gates_open: { "P1, G3": [0, 1], "R1, G1": [0, 0.2] },
      up_top_l: [],
      ...more,
    },
  }) as unknown as Moving;
const settled = { toCoverL: 6, inPanL: 4.6, airy: true };

describe("where the moving oil is", () => {
  it("is told by litres between plates and by gates", () => {
    expect(
      movingSentence(moving(), 0, settled, {
        system: "metric",
        units: [],
        limits: SETTINGS.limits,
      }),
    ).toBe("Of 4.6 L in motion, 3.6 L behind it, 1.0 L at the pickup. All gates shut.");
    expect(
      movingSentence(moving(), 0.02, settled, {
        system: "metric",
        units: [],
        limits: SETTINGS.limits,
      }),
    ).toContain("Open: P1, G3. 0.3 L in the crank's sweep.");
  });
  it("says when it is on its way to the mouth", () => {
    const covered = { ...settled, toCoverL: 2.4 };
    expect(
      movingSentence(moving(), 0, covered, {
        system: "metric",
        units: [],
        limits: SETTINGS.limits,
      }),
    ).toContain("on its way");
  });
  it("says when the mouth is covered that would be bare in settled oil", () => {
    const wet = { ...settled, airy: false };
    expect(
      movingSentence(moving(), 0, wet, { system: "metric", units: [], limits: SETTINGS.limits }),
    ).toContain("leave the mouth bare");
  });
  it("says what is up top, where the circuit was run along", () => {
    const run = moving({ up_top_l: [0.8, 0.9] });
    expect(
      movingSentence(run, 0, settled, { system: "metric", units: [], limits: SETTINGS.limits }),
    ).toContain("All gates shut. 0.8 L is up top and on its way down.");
  });
  it("of an open pan says that no plate parts it", () => {
    const plain = moving({ litres: { "at the pickup": [4.6, 4.6] }, gates_open: {} });
    expect(
      movingSentence(plain, 9, settled, { system: "metric", units: [], limits: SETTINGS.limits }),
    ).toBe("4.6 L in motion; no plate parts the pan. 0.3 L in the crank's sweep.");
  });
});
