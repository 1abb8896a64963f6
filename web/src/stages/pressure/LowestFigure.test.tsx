// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Moving } from "../../api/runs";
import { DUNLIN_BUILD } from "../../testing/documents";
import { forecastOf, showInBuild, viewOf } from "../../testing/view";
import { LowestFigure } from "./LowestFigure";

const figures = (dips: number): Moving =>
  ({
    pressure: { lowest_bar: 1.84, usual_bar: 4.9, dips: Array.from({ length: dips }) },
  }) as unknown as Moving;

const words = (moving: Moving | null, invented: never[] | string[] = []): string => {
  const build = { ...DUNLIN_BUILD, invented } as unknown as typeof DUNLIN_BUILD;
  const view = viewOf({ build, forecast: forecastOf({ figures: moving }) });
  return showInBuild(<LowestFigure to="/pressure" />, view).container.textContent;
};

describe("the lowest pressure in the head", () => {
  it("needs a run in moving oil", () => {
    expect(words(null)).toBe("Lowest galleryneeds a run");
  });
  it("stands beside what is usual there", () => {
    expect(words(figures(2))).toBe("Lowest gallery1.8 bar usual 4.9");
    expect(screen.getByText("1.8", { exact: false }).className).toContain("text-bad");
  });
  it("is nobody's while the car is a template's", () => {
    expect(words(figures(2), ["pump"])).toContain("not yours");
  });
});
