// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import * as api from "../../api/drawing";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { FromDrawing } from "./FromDrawing";

const ring = (a: number, b: number): [number, number][] => [
  [-a, -b],
  [a, -b],
  [a, b],
  [-a, b],
];
const DRAWING: api.FlatDrawing = {
  unit: "mm",
  rings_mm: [ring(200, 120), ring(180, 100)],
  holes: [
    { x_mm: -190, y_mm: 110, diameter_mm: 7 },
    { x_mm: 0, y_mm: 110, diameter_mm: 7 },
    { x_mm: 190, y_mm: -110, diameter_mm: 7 },
  ],
  long_mm: 400,
  wide_mm: 240,
  farthest: { between: [0, 2], apart_mm: 439.09 },
};
const mutate = vi.fn();
const edited = vi.fn(() => Promise.resolve({}));

function served(state: { data?: api.FlatDrawing; error?: Error }): HTMLElement {
  vi.spyOn(api, "useReadDrawing").mockReturnValue({
    mutate,
    data: state.data,
    error: state.error ?? null,
    isPending: false,
    isSuccess: state.data !== undefined,
  } as never);
  const { edit } = viewOf();
  const view = viewOf({ edit: { ...edit, mutateAsync: edited, reset: vi.fn() } as never });
  return showInBuild(<FromDrawing />, view).container;
}
afterEach(() => {
  vi.restoreAllMocks();
  mutate.mockReset();
  edited.mockClear();
});

it("reads a drawing as it is said to lie", async () => {
  served({});
  const file = new File(["0"], "flange.dxf");
  await userEvent.upload(screen.getByLabelText("Drawing of the flange"), file);
  await userEvent.selectOptions(screen.getByLabelText("The nose is"), "left");
  expect(mutate).toHaveBeenLastCalledWith({ file, asked: { ...api.AS_DRAWN, ahead: "left" } });
});

it("shows it with the distance to be measured, and lays it as the flange or begins a pan", async () => {
  const page = served({ data: DRAWING });
  expect(page.querySelectorAll("[data-hole]")).toHaveLength(3);
  expect(wordsIn(page)).toContain("Between the two marked ones 439.1 mm: measure that");
  await userEvent.click(screen.getByRole("button", { name: "Lay it as the flange" }));
  expect(edited).toHaveBeenLastCalledWith(
    expect.objectContaining({
      act: {
        kind: "flange_drawn",
        outline_mm: DRAWING.rings_mm[0],
        bolts: DRAWING.holes,
        thickness_mm: "6 mm",
      },
    }),
  );
  await userEvent.type(screen.getByLabelText("Measured between them"), "17 1/4 in");
  await userEvent.click(screen.getByRole("button", { name: "Begin the pan with its opening" }));
  expect(edited.mock.lastCall).toMatchObject([
    { act: { rail_mm: DRAWING.rings_mm[1], depth_mm: "120 mm", measured_mm: "17 1/4 in" } },
  ]);
});

it("asks for no distance where there are no two holes", () => {
  served({ data: { ...DRAWING, holes: [], farthest: null } });
  expect(screen.queryByLabelText("Measured between them")).toBeNull();
});

it("says what is wrong with a file", () => {
  const none = new Refusal(422, "refused", [{ field: "file", message: "has no closed outline" }]);
  const page = served({ error: none });
  expect(page.querySelector("[role=alert]")?.textContent).toBe("It: has no closed outline");
});
