import { describe, expect, it } from "vitest";
import { momentAt } from "../../plots/dryMoment";
import { DRY, OVER } from "../../testing/dry";
import { oilWord, pumpRpm, stagesSentence, worstSize, worthSentence } from "./flow";

describe("a dry sump in words", () => {
  it("says which stages have oil at a moment, counted from the lap's start", () => {
    const moment = momentAt(OVER, 1);
    expect(moment.panL).toBe(0.7);
    expect(stagesSentence(DRY, moment)).toBe(
      "the rear right stage has oil, the front stage and the rear left stage draw air.",
    );
    expect(stagesSentence(DRY, { ...moment, shares: [0.5, 0.5, 0.5] })).toBe(
      "every stage has oil.",
    );
    expect(stagesSentence(DRY, { ...moment, shares: [0, 0.04, 0] })).toBe(
      "all stages draw air, 0.7 L lie away from the mouths.",
    );
  });

  it("says what all bring together, and how fast the pump turns", () => {
    const moment = momentAt(OVER, 1);
    expect([moment.joined, moment.comingL]).toEqual([0.8, 0.6]);
    expect(pumpRpm(DRY, moment)).toBeCloseTo(31000 / 10.4);
    expect(pumpRpm({ ...DRY, stages: [] }, moment)).toBe(0);
    expect([moment.inCooler, moment.intoTank]).toEqual([0.55, 0.55]);
  });

  it("calls it air below a twentieth", () => {
    expect([oilWord(0.049), oilWord(0.05)]).toEqual(["air only", "5 %"]);
  });

  it("says which stage brings hardly anything, or that none can be left out", () => {
    expect(worthSentence(DRY, OVER)).toBe(
      "The front stage brings at most 8 % of the oil in any corner of this lap: it could go where oil lies.",
    );
    const corners = OVER.corners.map((each) => ({ ...each, brings: [0.2, 0.4, 0.4] }));
    expect(worthSentence(DRY, { ...OVER, corners })).toContain("none can be left out");
    expect(worthSentence(DRY, { ...OVER, corners: [] })).toBe("");
    // shares of next to nothing say nothing of a stage
    const dry = corners.map((each) => ({ ...each, shares: [0.04, 0, 0] }));
    expect(worthSentence(DRY, { ...OVER, corners: dry })).toBe(
      "No stage has oil in any corner of this lap.",
    );
    const [first] = corners;
    if (!first) throw new Error("no corner");
    const one = [{ ...first, shares: [0.05, 0, 0], brings: [0.1, 0.3, 0.6] }];
    expect(worthSentence(DRY, { ...OVER, corners: [...one, ...dry] })).toContain("at least 10 %");
  });

  it("looks at what is bad before what is a caution", () => {
    expect(worstSize(DRY)?.key).toBe("return_speed");
    const bad = DRY.sizes.map((each) => ({ ...each, state: "bad" as const }));
    expect(worstSize({ ...DRY, sizes: bad })?.key).toBe("ratio");
    expect(worstSize({ ...DRY, sizes: [] })).toBeNull();
  });
});
