// @vitest-environment jsdom
import { fireEvent, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import * as api from "../../api/drawing";
import { showInBuild, viewOf } from "../../testing/view";
import { FromPhoto } from "./FromPhoto";

const mutate = vi.fn();

/** An image that is 1640 by 1000, or none. */
class Shown {
  naturalWidth = 1640;
  naturalHeight = 1000;
  onload = (): void => undefined;
  onerror = (): void => undefined;
  set src(href: string) {
    queueMicrotask(() => (href.includes("bad") ? this.onerror() : this.onload()));
  }
}

function served(state: { data?: api.FlatDrawing; error?: Error } = {}): HTMLElement {
  vi.spyOn(api, "useTraceFlange").mockReturnValue({
    mutate,
    reset: vi.fn(),
    data: state.data,
    error: state.error ?? null,
    isPending: false,
  } as never);
  return showInBuild(<FromPhoto />, viewOf()).container;
}

const photo = async (name = "flange.jpg"): Promise<void> => {
  await userEvent.upload(
    screen.getByLabelText("Photograph of the flange"),
    new File(["0"], name, { type: "image/jpeg" }),
  );
};

/** Taps the picture, which is shown at half its size. */
function tap(x: number, y: number): void {
  const drawing = screen.getByLabelText("The picture").querySelector("svg");
  if (!drawing) throw new Error("no picture");
  drawing.getBoundingClientRect = () => ({ left: 10, top: 20, width: 820, height: 500 }) as DOMRect;
  fireEvent.click(drawing, { clientX: 10 + x / 2, clientY: 20 + y / 2 });
}

beforeEach(() => {
  vi.stubGlobal("Image", Shown);
  HTMLDialogElement.prototype.showModal = function open() {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = vi.fn();
  URL.createObjectURL = (file: File | MediaSource) => `blob:${(file as File).name}`;
  URL.revokeObjectURL = vi.fn();
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  mutate.mockReset();
});

it("sends the places picked, in the picture's own pixels, with the paper's size", async () => {
  served();
  await photo();
  const box = within(await screen.findByRole("dialog", { name: "Trace the flange" }));
  expect(box.getByText("Tap the paper's upper left corner.")).toBeTruthy();
  for (const [x, y] of [
    [100, 100],
    [500, 110],
    [510, 400],
    [90, 390],
  ] as const)
    tap(x, y);
  expect(box.getByText(/Tap the flange's outer edge/)).toBeTruthy();
  for (const [x, y] of [
    [50, 50],
    [1500, 60],
    [1480, 900],
  ] as const)
    tap(x, y);
  await userEvent.click(box.getByRole("button", { name: "Bolt holes 0" }));
  tap(80, 80);
  tap(700, 700);
  const last = box.getByRole("button", { name: "Bolt holes, 2" });
  fireEvent.keyDown(last, { key: "Delete" });
  fireEvent.keyDown(box.getByRole("button", { name: "Bolt holes, 1" }), {
    key: "ArrowRight",
    shiftKey: true,
  });
  await userEvent.click(box.getByRole("button", { name: "Close Trace the flange" }));
  await userEvent.selectOptions(screen.getByLabelText("The nose is"), "right");
  await userEvent.click(screen.getByRole("button", { name: "Take the perspective out" }));
  expect(mutate).toHaveBeenLastCalledWith({
    system: "metric",
    wide_mm: "297 mm",
    high_mm: "210 mm",
    hole_mm: "7 mm",
    corners: [
      [100, 100],
      [500, 110],
      [510, 400],
      [90, 390],
    ],
    outline: [
      [50, 50],
      [1500, 60],
      [1480, 900],
    ],
    opening: [],
    holes: [[90, 80]],
    ahead: "right",
    mirrored: true,
  });
});

it("says what is lacking, and takes the last place back", async () => {
  served();
  await photo();
  const box = within(await screen.findByRole("dialog"));
  tap(100, 100);
  await userEvent.click(box.getByRole("button", { name: "Take the last back" }));
  expect(screen.getByText(/Wanted still: The paper's corners: 0 of 4/)).toBeTruthy();
  const read = screen.getByRole("button", { name: "Take the perspective out", hidden: true });
  expect((read as HTMLButtonElement).disabled).toBe(true);
});

it("says that a file is no picture, and what was wrong with what was picked", async () => {
  served({
    error: new Refusal(422, "refused", [
      { field: "corners", message: "must be clockwise from the upper left" },
      { field: "trace.wide_mm", message: "cannot be read" },
    ]),
  });
  const alert = screen.getByRole("alert").textContent;
  expect(alert).toContain("Paper's corners: must be clockwise from the upper left");
  expect(alert).toContain("Paper, across the picture: cannot be read");
  await photo("bad.jpg");
  expect(await screen.findByText(/no picture that the browser can show/)).toBeTruthy();
});

it("tells how far a place may be off", () => {
  const rings: [number, number][][] = [
    [
      [0, 0],
      [400, 0],
      [400, 240],
    ],
  ];
  const page = served({
    data: {
      unit: "mm",
      rings_mm: rings,
      holes: [],
      long_mm: 400,
      wide_mm: 240,
      farthest: null,
      off_mm: 0.8,
    },
  });
  expect(page.textContent).toContain("a pixel off moves a place by up to 0.8");
});
