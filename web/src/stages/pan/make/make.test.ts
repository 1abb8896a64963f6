import { describe, expect, it } from "vitest";
import { patternFile, printFile } from "../../../api/making";
import { DUNLIN_BUILD } from "../../../testing/documents";
import { partOf } from "../../../testing/making";
import { bendsSentence, fitted, ringPath } from "./pattern";

describe("the files of a pan", () => {
  it("are of all its parts, or of one", () => {
    expect(patternFile(DUNLIN_BUILD)).toMatch(/making\/dxf$/);
    expect(patternFile(DUNLIN_BUILD, "panel-1-2", "svg")).toMatch(/making\/svg\?part=panel-1-2$/);
  });

  it("are solids as they were asked for, figures as typed", () => {
    const asked = { what: "pickup_plate", typed: { bore_mm: "3/4 in" } } as const;
    const address = printFile(DUNLIN_BUILD, asked, "us", "dxf");
    expect(address).toContain("/printed/dxf?bore_mm=3%2F4+in&what=pickup_plate&system=us");
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
