// @vitest-environment jsdom
import { expect, it, vi } from "vitest";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { SETTINGS } from "../../testing/settings";
import { showInBuild, viewOf } from "../../testing/view";
import { groundWords } from "./groundWords";
import { useCarState } from "./state";

vi.mock("../../api/queries", () => ({ usePan: () => ({ data: undefined }) }));

const said = (gap_mm: number, margin_mm: number | null): string =>
  groundWords({ gap_mm, margin_mm, at_mm: [12, 0, -140] }, SETTINGS.units, "metric");

it("says of the lowest corner how far it is over the ground, or under it", () => {
  expect(said(58, null)).toBe("58 mm under the pan's lowest corner, 12 mm ahead of the rear face");
  expect(said(58, 13)).toContain("rear face: 13 mm more than wanted");
  expect(said(0, -45)).toContain("0 mm under the pan's lowest corner");
  expect(said(-20, -65)).toBe(
    "The pan's lowest corner, 12 mm ahead of the rear face, is 20 mm under the ground: 65 mm less than wanted",
  );
});

const State = () => useCarState().word;

it("is sound when nothing of it is at a usual place", () => {
  const crank = { height_mm: 60, swept_radius_mm: 80, from_x_mm: 40, to_x_mm: 400 };
  const word = (assumed: boolean): string => {
    const car = {
      ...DUNLIN.car,
      place: "front" as const,
      rail_height_mm: 200,
      crank: { ...crank, assumed },
    };
    const build = { ...DUNLIN_BUILD, invented: [], document: { ...DUNLIN, car } };
    return showInBuild(<State />, viewOf({ build })).container.textContent;
  };
  expect([word(false), word(true)]).toEqual(["sound", "started"]);
});
