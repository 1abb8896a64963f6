// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../../api/client";
import * as api from "../../../api/making";
import * as sizes from "../../../parts/size";
import { MAKING, partOf } from "../../../testing/making";
import { showInBuild, viewOf } from "../../../testing/view";
import { MakePage } from "./MakePage";

let asked: api.Made[] = [];

function served(data: api.Making | undefined, error: Error | null = null): HTMLElement {
  vi.spyOn(api, "useMaking").mockImplementation((_, made) => {
    asked.push(made);
    return { data, error, refetch: vi.fn() } as never;
  });
  vi.spyOn(sizes, "useSize").mockReturnValue([() => undefined, { width: 600, height: 400 }]);
  return showInBuild(<MakePage column={(content) => <aside>{content}</aside>} />, viewOf())
    .container;
}

beforeEach(() => {
  asked = [];
  window.localStorage.clear();
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

  it("bends an edge, keeps that, and welds all again where it cannot lie flat", async () => {
    served(MAKING);
    await userEvent.click(screen.getByRole("checkbox", { name: "Bend between 1 and 3" }));
    expect(asked.at(-1)?.bent).toEqual(["1-3"]);
    expect(Object.values(window.localStorage).join()).toContain("1-3");
    const ring = [{ field: "bent", message: "panels 1, 2, 3 are bent round in a ring" }];
    served(MAKING, new Refusal(422, "refused", ring));
    expect(screen.getByRole("alert").textContent).toMatch(/^panels 1, 2, 3/);
    await userEvent.click(screen.getByRole("button", { name: "weld all" }));
    expect(asked.at(-1)?.bent).toEqual([]);
  });

  it("takes a radius and a K-factor as they are typed, and refuses what is none", async () => {
    served(MAKING);
    const radius = screen.getByLabelText("Radius of bends, inside");
    await userEvent.clear(radius);
    await userEvent.type(radius, "4.5{Enter}");
    expect(asked.at(-1)?.radiusMm).toBe(4.5);
    const factor = screen.getByLabelText("K-factor");
    await userEvent.clear(factor);
    await userEvent.type(factor, "2{Enter}");
    expect(screen.getByRole("alert").textContent).toContain("from 0 to 1");
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
