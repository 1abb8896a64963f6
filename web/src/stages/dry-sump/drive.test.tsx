// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { BELT, DRIVE, DRY } from "../../testing/dry";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { DriveSection } from "./DriveSection";

const view = viewOf({});
const withBelt = (drive: typeof BELT | null) =>
  viewOf({
    build: { ...view.build, document: { ...view.build.document, drive } },
    edit: { ...view.edit, mutateAsync: edited } as never,
  });
const edited = vi.fn(() => Promise.resolve({ undo: "belt drive" }));

it("draws the belt, tells what is out, what is in the way, and that it is invented", () => {
  const page = showInBuild(<DriveSection dry={{ ...DRY, drive: DRIVE }} />, withBelt(BELT));
  const { container } = page;
  expect(container.querySelectorAll("[data-wheel]")).toHaveLength(2);
  expect(container.querySelector("[data-belt]")?.getAttribute("d")).toContain("A");
  const words = wordsIn(container);
  expect(words).toContain("1.15° out of line");
  expect(words).toContain("chassis rail are 4 mm in each other: shave it");
  expect(words).toContain("Pump to engine mount 22 mm, wanted 10 mm");
  expect(words).toContain("Invented when it went dry");
  expect(words).toContain("2 mm ahead");
});

it("offers to lay one out with the pulleys that come nearest, idler's places when there is one", async () => {
  showInBuild(<DriveSection dry={{ ...DRY, drives: [[20, 36]] }} />, withBelt(null));
  const form = screen.getByRole("form", { name: "Belt drive" });
  expect(within(form).getByLabelText<HTMLInputElement>("Teeth on the pump").value).toBe("36");
  expect(within(form).queryByLabelText("Idler, across")).toBeNull();
  await userEvent.selectOptions(within(form).getByLabelText("Idler"), "back");
  expect(within(form).getByLabelText("Idler, across")).toBeTruthy();
  await userEvent.selectOptions(within(form).getByLabelText("Idler"), "none");
  await userEvent.click(within(form).getByRole("button", { name: "Fit it" }));
  expect(edited).toHaveBeenCalledWith(
    expect.objectContaining({
      kind: "act",
      act: expect.objectContaining({
        kind: "fit_drive",
        crank_teeth: "20",
        across_mm: "-150 mm",
        idler_across_mm: null,
        belt_teeth: null,
      }) as unknown,
    }),
  );
});

it("shows what there is in the form, and edits a figure by its own field", async () => {
  showInBuild(<DriveSection dry={{ ...DRY, drive: DRIVE }} />, withBelt(BELT));
  const form = screen.getByRole("form", { name: "Belt drive", hidden: true });
  expect(within(form).getByLabelText<HTMLInputElement>("Pump, left of the crank").value).toBe(
    "100 mm",
  );
  const numbers = screen.getByRole("region", { name: "The drive's figures" });
  const offset = within(numbers).getByLabelText("Its pulley ahead of the crank's");
  await userEvent.clear(offset);
  await userEvent.type(offset, "0.5 mm{Enter}");
  expect(edited).toHaveBeenCalledWith(
    expect.objectContaining({
      act: { kind: "figures", figures: [{ field: "drive.offset_mm", value: "0.5 mm" }] },
    }),
  );
});
