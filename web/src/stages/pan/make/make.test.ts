import { describe, expect, it } from "vitest";
import { AS_WELDED, patternFile } from "../../../api/making";
import { DUNLIN_BUILD } from "../../../testing/documents";
import { partOf } from "../../../testing/making";
import { keptMade, withSeam } from "./made";
import { bendsSentence, fitted, ringPath } from "./pattern";

describe("how a pan is made", () => {
  it("is kept, and what cannot be read is all welded", () => {
    const made = { bent: ["1-2"], radiusMm: 4, kFactor: 0.4 };
    expect(keptMade(JSON.stringify(made))).toEqual(made);
    for (const text of [null, "", "{", "3", '{"bent": 1, "radiusMm": -1, "kFactor": 2}'])
      expect(keptMade(text)).toEqual(AS_WELDED);
    expect(keptMade('{"bent": ["1-2", "one-two", 7]}').bent).toEqual(["1-2"]);
  });

  it("bends an edge once, and welds it again", () => {
    const once = withSeam(AS_WELDED, "1-2", true);
    expect(withSeam(once, "1-2", true).bent).toEqual(["1-2"]);
    expect(withSeam(withSeam(once, "1-3", true), "1-2", false).bent).toEqual(["1-3"]);
  });

  it("is asked for in the files' address", () => {
    const made = { bent: ["1-2", "1-3"], radiusMm: 4, kFactor: 0.4 };
    const address = patternFile(DUNLIN_BUILD, made, "panel-1-2");
    expect(address).toContain("bent=1-2&bent=1-3&radius_mm=4&k_factor=0.4&part=panel-1-2");
    expect(patternFile(DUNLIN_BUILD, AS_WELDED)).not.toMatch(/radius_mm|k_factor/);
  });
});

describe("a pattern on the page", () => {
  it("fits with its margin, up is up", () => {
    const fit = fitted(partOf(), 300, 200, 20);
    expect(fit.scale).toBeCloseTo(1.3);
    expect(fit.at([-100, 50])).toEqual([20, 20]);
    expect(fit.at([100, -50])).toEqual([280, 150]);
    expect(fitted(partOf(), 5000, 5000, 20).scale).toBe(2);
    expect(ringPath(fit, [[-100, 50]])).toBe("M20.0 20.0Z");
  });

  it("tells its bends", () => {
    const bend = {
      from_mm: [0, 0] as [number, number],
      to_mm: [1, 0] as [number, number],
      bend_deg: 90,
    };
    expect(bendsSentence(partOf())).toBe("");
    expect(bendsSentence(partOf({ bends: [{ ...bend, up: true }] }))).toBe("1 bend toward you");
    expect(
      bendsSentence(
        partOf({
          bends: [
            { ...bend, up: true },
            { ...bend, up: false },
            { ...bend, up: false },
          ],
        }),
      ),
    ).toBe("1 bend toward you, 2 bends away from you");
  });
});
