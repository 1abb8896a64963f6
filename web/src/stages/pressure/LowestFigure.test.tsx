// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Moving } from "../../api/runs";
import type { Forecast } from "../../document/BuildContext";
import { DUNLIN_BUILD } from "../../testing/documents";
import { forecastOf, showInBuild, viewOf } from "../../testing/view";
import { LowestFigure } from "./LowestFigure";

const figures = (dips: number, band_bar: [number, number] | null = null): Moving =>
  ({
    pressure: { lowest_bar: 1.84, usual_bar: 4.9, band_bar, dips: Array.from({ length: dips }) },
  }) as unknown as Moving;

const words = (
  moving: Moving | null,
  invented: never[] | string[] = [],
  told: object = { data: { lap: {} } },
): string => {
  const build = { ...DUNLIN_BUILD, invented } as unknown as typeof DUNLIN_BUILD;
  const settled = told as unknown as Forecast["settled"];
  const view = viewOf({ build, forecast: forecastOf({ figures: moving, settled }) });
  return showInBuild(<LowestFigure to="/pressure" />, view).container.textContent;
};

describe("the lowest pressure in the head", () => {
  it("needs a run in moving oil", () => {
    expect(words(null)).toBe("Lowest galleryneeds a run");
    expect(words(null, [], { data: { lap: null } })).toBe("Lowest galleryno lap");
  });
  it("says neither while nothing was read yet, or could be", () => {
    expect(words(null, [], {})).toBe("Lowest gallerybeing read");
    expect(words(null, [], { error: new Error("away") })).toBe("Lowest gallerynot told");
  });
  it("stands beside what is usual there", () => {
    expect(words(figures(2))).toBe("Lowest gallery1.8 bar usual 4.9");
    expect(screen.getByText("1.8", { exact: false }).className).toContain("text-bad");
  });
  it("has its band by the pump's slip, where there is one", () => {
    expect(words(figures(2, [1.62, 1.9]))).toBe("Lowest gallery1.8 bar ±0.2 of 4.9");
    expect(screen.getByRole("link").title).toBe(
      "1.6 to 1.9 bar by how far the pump slips on gas; usual there is 4.9",
    );
    expect(words(figures(2, [1.83, 1.85]))).toContain("usual 4.9");
  });
  it("is nobody's while the car is a template's", () => {
    expect(words(figures(2), ["pump"])).toContain("not yours");
  });
});
