// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/dry";
import { DRY, DRY_STAGE } from "../../testing/dry";
import { wordsIn } from "../../testing/shown";
import { showInBuild, viewOf } from "../../testing/view";
import { DrySumpScreen } from "./DrySumpScreen";

const go = vi.fn();
const pick = vi.fn();

function served(data: api.DryStage | undefined, error: Error | null = null): HTMLElement {
  vi.spyOn(api, "useDrySump").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  return showInBuild(<DrySumpScreen />, viewOf({ go, pick })).container;
}

afterEach(() => {
  vi.restoreAllMocks();
  [go, pick].forEach((each) => each.mockReset());
});

describe("the Dry sump screen", () => {
  it("offers to go dry while the pump draws from the pan", () => {
    served({ ...DRY_STAGE, dry: null, moving: null });
    expect(screen.getByRole("heading", { name: "The pump draws from the pan" })).toBeTruthy();
    expect(screen.getByLabelText("Pan's depth below the rail")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Fit it" })).toBeTruthy();
  });

  it("does not offer it a second time while what it made is worked out", () => {
    const wet = { ...DRY_STAGE, dry: null, moving: null };
    vi.spyOn(api, "useDrySump").mockReturnValue({ data: wet, isPlaceholderData: true } as never);
    showInBuild(<DrySumpScreen />, viewOf({ go, pick }));
    expect(screen.queryByRole("button", { name: "Fit it" })).toBeNull();
    expect(screen.getByRole("status").textContent).toContain("the dry sump");
  });

  it("says what could not be read", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
  });

  it("shows the stages corner by corner, in a word and as a bar", async () => {
    const page = served(DRY_STAGE);
    const rows = within(page).getAllByRole("rowheader");
    const front = rows.find((each) => each.textContent.includes("front stage"));
    const cells = front?.closest("tr")?.querySelectorAll("td");
    expect([...(cells ?? [])].map((cell) => cell.textContent)).toEqual(["air only", "5 %"]);
    await userEvent.click(screen.getByRole("button", { name: /Mill right/ }));
    expect(pick).toHaveBeenCalledWith(2);
    expect(screen.getByText(/it could go where oil lies/)).toBeTruthy();
  });

  it("draws each mouth, each stage and the tank, and begins where most oil is left lying", () => {
    const page = served(DRY_STAGE);
    expect(page.querySelectorAll("[data-mouth]")).toHaveLength(3);
    expect(page.querySelectorAll("[data-stage]")).toHaveLength(3);
    expect(page.querySelector("[data-tank]")?.getAttribute("data-tank")).toBe("4.8");
    expect(wordsIn(screen.getByRole("heading", { level: 1 }))).toContain("At 1.0 s");
  });

  it("tells sizes wanted and found, with their units and who says so", () => {
    served(DRY_STAGE);
    const told = (key: string): string =>
      document.querySelector(`[data-size=${key}]`)?.textContent ?? "";
    expect(told("ratio")).toContain("2.0 to 3.0");
    expect(told("return_speed")).toContain("5.6 m/s");
    expect(told("return_speed")).toContain("The next size up.");
    expect(told("tank_oil")).toContain("not known");
    expect(told("ratio")).toContain("from memory");
  });

  it("tells what is lost without each stage, and the gas on the way back", () => {
    const page = served(DRY_STAGE);
    const cells = (id: string): (string | undefined)[] =>
      [...(page.querySelector(`[data-without=${id}]`)?.querySelectorAll("td") ?? [])].map(
        (cell) => cell.textContent,
      );
    expect(cells("c1")).toEqual(["0.6 L", "118 mm"]);
    expect(cells("c2")).toEqual(["4.1 L", "bare after 6.2 s"]);
    const way = within(page).getByRole("region", { name: "Separator" });
    expect(way.textContent).toContain("leaves 33 % to go through the cooler");
    expect(way.textContent).toContain("a guess");
    expect(page.querySelector("[data-scavenge-rose]")?.getAttribute("aria-label")).toContain(
      "throwing oil back",
    );
  });

  it("tells what two pickups on one stage leave lying, and what does not help", () => {
    const page = served(DRY_STAGE);
    const region = within(page).getByRole("region", { name: "Two pickups on one stage" });
    const row = region.querySelector("[data-shared]");
    expect(row?.textContent).toBe("front + rearas it is built12.3 s2.6 L0.5 L");
    expect(region.textContent).toContain("gets 3 % of the stage, through the same hose under 1 %.");
  });

  it("lists what does not work first", () => {
    const check = {
      state: "bad" as const,
      words: "The oil tank has no way out for gas",
      field: "circuit.components.7",
      mend: null,
      wanted: "",
      source: "from memory",
    };
    served({ ...DRY_STAGE, checks: [check] });
    const list = screen.getByRole("list", { name: "What is wrong" });
    expect(list.textContent).toContain("has no way out for gas");
  });

  it("has sizes alone without a lap", async () => {
    const alone = { ...DRY, over_lap: null };
    served({ ...DRY_STAGE, has_lap: false, dry: alone, moving: null });
    await userEvent.click(screen.getByRole("button", { name: "Import a lap" }));
    expect(go).toHaveBeenCalledWith("loads");
    expect(screen.getByRole("region", { name: "Sizing" })).toBeTruthy();
  });
});
