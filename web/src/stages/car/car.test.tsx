// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import type { BuildView } from "../../document/BuildContext";
import { DUNLIN, DUNLIN_BUILD } from "../../testing/documents";
import { SETTINGS } from "../../testing/settings";
import { showInBuild, viewOf } from "../../testing/view";
import { CarScreen } from "./CarScreen";
import { groundWords } from "./groundWords";
import { useCarState } from "./state";

const none = { data: undefined };
vi.mock("../../api/queries", () => ({ usePan: () => none, useCircuit: () => none }));

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

it("asks for the rail's height, and puts in none of its own", async () => {
  const mutateAsync = vi.fn().mockResolvedValue({});
  const edit = { mutate: vi.fn(), mutateAsync, reset: vi.fn() } as unknown as BuildView["edit"];
  const car = { ...DUNLIN.car, rail_height_mm: null, least_ground_mm: null };
  const build = { ...DUNLIN_BUILD, document: { ...DUNLIN, car } };
  showInBuild(<CarScreen />, viewOf({ build, edit }));
  const height = screen.getByLabelText<HTMLInputElement>("Pan rail above the ground");
  expect([height.value, height.placeholder]).toEqual(["", "not known"]);
  expect(mutateAsync).not.toHaveBeenCalled();
  await userEvent.type(height, "212{Enter}");
  expect(JSON.stringify(mutateAsync.mock.lastCall)).toMatch(/car\.rail_height_mm.*212/);
});
