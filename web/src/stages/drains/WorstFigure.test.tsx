// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import type { Forecast } from "../../document/BuildContext";
import type { OverLap } from "../../document/worst";
import { DUNLIN_BUILD } from "../../testing/documents";
import { forecastOf, showInBuild, viewOf } from "../../testing/view";
import { DRAINS } from "../../testing/drains";
import { WorstFigure } from "./WorstFigure";

const over = (drains: OverLap["drains"]): OverLap[] => [{ drains } as OverLap];

const said = (drains: OverLap["drains"], told: object = { data: { lap: {} } }): string => {
  const settled = told as unknown as Forecast["settled"];
  return showInBuild(
    <WorstFigure to="/" />,
    viewOf({
      build: { ...DUNLIN_BUILD, invented: [] },
      forecast: forecastOf({ over: over(drains), settled }),
    }),
  ).container.textContent;
};

describe("the head's worst drain", () => {
  it("is what is short, or to spare, or why there is no figure", () => {
    expect(said(DRAINS.verdict)).toBe("Worst drain−42 mm backs up");
    expect(said({ ...DRAINS.verdict, state: "good", spare_mm: 12 })).toBe(
      "Worst drain12 mm to spare",
    );
    expect(said({ ...DRAINS.verdict, state: "none", spare_mm: null, unplaced: 1 })).toBe(
      "Worst drainno place",
    );
    expect(said(null)).toBe("Worst drainno drains");
    expect(said(null, {})).toBe("Worst drainbeing read");
  });
});
