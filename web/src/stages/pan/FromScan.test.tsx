// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import * as api from "../../api/scan";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { FromScan } from "./FromScan";

const ZONE: api.Scanned["zones"][number] = {
  id: "",
  name: "scanned pan",
  outline_mm: [
    [0, -100],
    [400, -100],
    [400, 100],
    [0, 100],
  ],
  floor: {
    kind: "surface",
    places_mm: [
      [0, -100, 60],
      [400, -100, 120],
      [400, 100, 120],
      [0, 100, 60],
    ],
    triangles: [
      [0, 1, 2],
      [0, 2, 3],
    ],
  },
  ceiling_depth_mm: null,
  draft_deg: 0,
};
const SCANNED: api.Scanned = {
  zones: [ZONE],
  triangles: 461_566,
  pieces: 2,
  long_mm: 400,
  wide_mm: 200,
  deep_mm: 120,
  volume_l: 7.2,
  kept_l: 7.19,
  off_mm: 0.6,
  rms_mm: 0.2,
};

const mutate = vi.fn();
const edited = vi.fn(() => Promise.resolve({}));
function served(state: { data?: api.Scanned; error?: Error; isPending?: boolean }): HTMLElement {
  vi.spyOn(api, "useReadScan").mockReturnValue({
    mutate,
    data: state.data,
    error: state.error ?? null,
    isPending: state.isPending ?? false,
    isSuccess: state.data !== undefined,
  } as never);
  const { edit } = viewOf();
  const view = viewOf({ edit: { ...edit, mutateAsync: edited, reset: vi.fn() } as never });
  return showInBuild(<FromScan />, view).container;
}
afterEach(() => {
  vi.restoreAllMocks();
  mutate.mockReset();
  edited.mockClear();
});
const MESH = new File(["solid"], "inside.stl");

it("reads a mesh as it is said to stand, anew when that is another", async () => {
  served({});
  await userEvent.upload(screen.getByLabelText("Mesh of the inside"), MESH);
  expect(mutate).toHaveBeenLastCalledWith({ file: MESH, asked: api.AS_IT_IS });
  await userEvent.selectOptions(screen.getByLabelText("The crank's nose"), "-x");
  await userEvent.selectOptions(screen.getByLabelText("Drawn in"), "in");
  expect(mutate).toHaveBeenLastCalledWith({
    file: MESH,
    asked: { ...api.AS_IT_IS, unit: "in", nose: "-x" },
  });
  const place = screen.getByLabelText("Rear face, right");
  await userEvent.type(place, "0, -120, 0");
  await userEvent.tab();
  expect(mutate.mock.lastCall?.[0]).toMatchObject({ asked: { rear_right: "0, -120, 0" } });
});

it("shows what was found and how near it comes, and makes it the pan", async () => {
  const page = served({ data: SCANNED });
  expect(page.querySelectorAll("[data-scan] path")).toHaveLength(2 + 1 + 1);
  expect(wordsIn(page)).toContain("461,566 triangles, 400 mm by 200 mm, 120 mm deep, 7.20 L");
  expect(wordsIn(page)).toContain("floors within 0.6 mm but for two places in a hundred");
  await userEvent.click(screen.getByRole("button", { name: "Make it this pan" }));
  expect(edited).toHaveBeenCalledWith(
    expect.objectContaining({ act: { kind: "pan_from_scan", zones: [ZONE] } }),
  );
  expect(screen.getByRole("status").textContent).toContain("Undo brings the old one back");
});

it("says that it reads, and what is wrong with a file", () => {
  served({ isPending: true });
  expect(screen.getByText("Reading the mesh…")).toBeTruthy();
  const open = new Refusal(422, "refused", [{ field: "file", message: "is open: 3 edges" }]);
  const page = served({ error: open });
  expect(page.querySelector("[role=alert]")?.textContent).toBe("It: is open: 3 edges");
});
