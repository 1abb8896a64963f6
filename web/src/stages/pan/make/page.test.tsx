// @vitest-environment jsdom
import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../../api/client";
import * as api from "../../../api/making";
import * as sizes from "../../../parts/size";
import { MAKING, partOf, PRINTED } from "../../../testing/making";
import { wordsIn } from "../../../testing/shown";
import { showInBuild, viewOf } from "../../../testing/view";
import { MakePage } from "./MakePage";

const edited = vi.fn(() => Promise.resolve({}));
let asked: api.PrintAsked[] = [];

function served(
  data: api.Making | undefined,
  error: Error | null = null,
  print: { data?: api.Printed; error?: Error } = { data: PRINTED },
): HTMLElement {
  vi.spyOn(api, "useMaking").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  vi.spyOn(api, "usePrinted").mockImplementation((_, wanted) => {
    asked.push(wanted);
    return { data: print.data, error: print.error ?? null } as never;
  });
  vi.spyOn(sizes, "useSize").mockReturnValue([() => undefined, { width: 600, height: 400 }]);
  const { edit } = viewOf();
  const view = viewOf({ edit: { ...edit, mutateAsync: edited, reset: vi.fn() } as never });
  return showInBuild(<MakePage column={(content) => <aside>{content}</aside>} />, view).container;
}
const act = (figures: object): unknown => ({
  kind: "act",
  act: { kind: "make_of_sheet", ...figures },
  system: "metric",
});

beforeEach(() => {
  asked = [];
  edited.mockClear();
});
afterEach(() => vi.restoreAllMocks());

describe("the pan as flat patterns", () => {
  it("says why there is none", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
  });

  it("shows the first part to scale, and another that is picked", async () => {
    const page = served(MAKING);
    expect(page.querySelector("[data-pattern=panel-1]")?.textContent).toContain("200 mm");
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("floor 1, flat");
    await userEvent.click(screen.getByRole("button", { name: "leaf of G1" }));
    const leaf = page.querySelector("[data-pattern=gate-1-1]");
    expect(leaf?.querySelectorAll("circle")).toHaveLength(1);
    expect(leaf?.textContent).not.toContain("nose");
    expect(screen.getByText(/2 mm \(a guess\)/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "leaf of G1 as DXF" }).getAttribute("href")).toContain(
      "part=gate-1-1",
    );
  });

  it("bends an edge and welds another, known by where they are", async () => {
    served(MAKING);
    await userEvent.click(screen.getByRole("checkbox", { name: "Bend between 1 and 2" }));
    expect(edited).toHaveBeenLastCalledWith(act({ edge_mm: [0, 50, -60], bent: true }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Bend between 1 and 3" }));
    expect(edited).toHaveBeenLastCalledWith(act({ edge_mm: [100, 0, -60], bent: false }));
  });

  it("says why it cannot lie flat, and welds all again", async () => {
    served({ ...MAKING, fault: "panels 1, 2, 3 are bent round in a ring" });
    expect(screen.getByRole("alert").textContent).toMatch(/^panels 1, 2, 3/);
    await userEvent.click(screen.getByRole("button", { name: "weld all" }));
    expect(edited).toHaveBeenLastCalledWith(act({ weld_all: true }));
  });

  it("takes a figure of the sheet as it is typed, and shows why one is refused", async () => {
    served(MAKING);
    const radius = screen.getByLabelText("Radius of bends, inside");
    await userEvent.clear(radius);
    await userEvent.type(radius, "3/16 in{Enter}");
    expect(edited).toHaveBeenLastCalledWith(act({ radius_mm: "3/16 in" }));
    edited.mockRejectedValueOnce(
      new Refusal(422, "refused", [{ field: "k_factor", message: "must be 1 at most" }]),
    );
    const factor = screen.getByLabelText("K-factor");
    await userEvent.clear(factor);
    await userEvent.type(factor, "2{Enter}");
    expect(screen.getByRole("alert").textContent).toContain("must be 1 at most");
  });

  it("asks for the metal until it is said, and shows why a change is refused", async () => {
    served({ ...MAKING, metal: null });
    const unsaid = screen.getByLabelText<HTMLSelectElement>("Metal");
    expect(wordsIn(unsaid)).toContain("not said");
    await userEvent.selectOptions(unsaid, "aluminium");
    expect(edited).toHaveBeenLastCalledWith(act({ metal: "aluminium" }));
    cleanup();

    served({ ...MAKING, metal: "steel" });
    expect(wordsIn(screen.getByLabelText("Metal"))).not.toContain("not said");
    edited.mockRejectedValueOnce(new Refusal(409, "changed", []));
    await userEvent.click(screen.getByRole("checkbox", { name: /^Corners cut out/ }));
    expect(screen.getByRole("alert").textContent).not.toBe("");
  });

  it("tells what it takes, what it weighs and what to look at", () => {
    const page = served(MAKING);
    expect(wordsIn(page.querySelector("[data-nest]"))).toContain("1 sheet, 21 % used");
    expect(wordsIn(page.querySelector("[data-weight=steel]"))).toContain(
      "4.7 kg empty, 8.9 kg with its oil, its middle 61 mm under the rail",
    );
    expect(wordsIn(page)).toContain("is drilled, not punched or cut");
  });

  it("draws bends with their angle and way", () => {
    const bent = partOf({
      bends: [{ from_mm: [-100, 0], to_mm: [100, 0], bend_deg: 90, up: false }],
    });
    const page = served({ ...MAKING, parts: [bent] });
    expect(page.querySelectorAll("[data-bend]").length).toBeGreaterThan(0);
    expect(page.textContent).toContain("90.0° down");
  });
});

it("says why nothing is cut of a scanned pan, and prints it all the same", () => {
  const page = served({ ...MAKING, parts: [], seams: [], fault: "The floor is a scan's" });
  expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("Nothing is cut flat");
  expect(wordsIn(page)).toContain("The floor is a scan's.");
  expect(screen.getByRole("region", { name: "Print it" })).toBeTruthy();
  expect(screen.queryByRole("region", { name: "Edges" })).toBeNull();
});

describe("what is printed of it", () => {
  it("is told in pieces, and written as solids", async () => {
    const page = served(MAKING);
    expect(wordsIn(page.querySelector("[data-printed]"))).toContain(
      "6 pieces, the largest 158 x 134 x 140 mm; 644 cm³",
    );
    await userEvent.selectOptions(screen.getByLabelText("As a solid"), "pickup_plate");
    const bore = screen.getByLabelText("Port's bore");
    await userEvent.type(bore, "3/4 in{Enter}");
    expect(asked.at(-1)).toEqual({ what: "pickup_plate", typed: { bore_mm: "3/4 in" } });
    expect(screen.getByRole("link", { name: "DXF" }).getAttribute("href")).toContain("bore_mm=3");
    expect(screen.getByRole("link", { name: "3MF" })).toBeTruthy();
  });

  it("says what cannot be, and goes back to what is usual", async () => {
    const low = new Refusal(422, "refused", [
      { field: "bed_high_mm", message: "must be 140 mm at least" },
    ]);
    served(MAKING, null, { error: low });
    expect(screen.getByRole("alert").textContent).toContain("must be 140 mm at least");
    await userEvent.click(screen.getByRole("button", { name: "as usual" }));
    expect(asked.at(-1)?.typed).toEqual({});
  });
});
