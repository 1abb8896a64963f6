// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildOut, PanFigures, Session, Slosh } from "../api/queries";
import type { BuildView } from "../document/BuildContext";
import { DUNLIN, DUNLIN_BUILD } from "../testing/documents";
import { forecastOf, showInBuild, viewOf } from "../testing/view";
import { HeadStrip } from "./HeadStrip";

const state = vi.hoisted((): { pan: unknown } => ({ pan: undefined }));
vi.mock("../api/queries", async (original) => ({
  ...(await original()),
  usePan: () => ({ data: state.pan }),
  useSignOut: () => ({ mutate: vi.fn() }),
}));

const SESSION = { username: "dunlin", workshop: "Reedbank Motors" } as Session;
const DRY = {
  verdict: {
    state: "not_safe",
    headline: "Not safe",
    sentence: "The pickup runs dry 8 times a lap.",
    dry_s: 4.84,
    dip_count: 8,
  },
} as unknown as Slosh;
const ground = (gap_mm: number, margin_mm: number | null): PanFigures =>
  ({ ground: { gap_mm, margin_mm, at_mm: [212, 0, -138] } }) as unknown as PanFigures;

function strip(
  slosh: Slosh | undefined,
  pan: PanFigures | undefined,
  { build = DUNLIN_BUILD, moves = false }: { build?: BuildOut; moves?: boolean } = {},
): { head: HTMLElement; view: BuildView } {
  state.pan = pan;
  const settled = { ...forecastOf().settled, data: moves ? undefined : slosh } as never;
  const forecast = forecastOf({ shown: slosh, settled });
  const view = viewOf({ build, forecast });
  return { head: showInBuild(<HeadStrip session={SESSION} />, view).container, view };
}

beforeEach(() => vi.clearAllMocks());

describe("HeadStrip", () => {
  it("says the verdict in a sentence, and its figures lead to their evidence", () => {
    strip(DRY, ground(58, 13));
    const verdict = screen.getByRole("status", { name: "Verdict" });
    expect(verdict.textContent).toBe("Not safe. The pickup runs dry 8 times a lap.");
    expect(screen.getByRole("link", { name: /Dry, settled/ }).textContent).toContain("4.8");
    expect(screen.getByRole("link", { name: /To the ground/ }).getAttribute("href")).toBe(
      "/builds/7/car",
    );
  });

  it("shows the stages' figures in one order", () => {
    const { head } = strip(DRY, ground(58, 13));
    const names = ["Dry, settled", "Lowest gallery", "Worst drain", "To the ground"];
    const places = names.map((name) => head.textContent.indexOf(name));
    expect(places).toEqual([...places].sort((one, other) => one - other));
    expect(places).not.toContain(-1);
  });

  it("says which oil its dry time is of", () => {
    strip(DRY, ground(58, 13), { moves: true });
    expect(screen.getByRole("link", { name: /Dry, moving/ })).toBeTruthy();
  });

  it("says in two words what has no figure, never a dash or a zero", () => {
    const { head } = strip(undefined, ground(58, null));
    expect(screen.getByRole("link", { name: /Lowest gallery/ }).textContent).toContain(
      "being read",
    );
    expect(screen.getByRole("link", { name: /To the ground/ }).textContent).toContain(
      "want not said",
    );
    expect(head.textContent).not.toContain("–");
  });

  it("does not say that a figure is missing while it is being read", () => {
    strip(DRY, undefined);
    expect(screen.getByRole("link", { name: /To the ground/ }).textContent).toContain("being read");
  });

  it("says when the ground was not measured", () => {
    strip(DRY, { ground: null } as unknown as PanFigures);
    expect(screen.getByRole("link", { name: /To the ground/ }).textContent).toContain("not given");
  });

  it("says how the engine sits", () => {
    expect(strip(DRY, ground(58, 13)).head.textContent).toContain("engine along, leaned 12° right");
    const car = { ...DUNLIN.car, nose_points: "right" as const, lean_right_deg: 0 };
    const build = { ...DUNLIN_BUILD, document: { ...DUNLIN, car } };
    expect(strip(DRY, ground(58, 13), { build }).head.textContent).toContain(
      "engine across, upright",
    );
  });

  it("undoes what there is to undo, and says what that is", async () => {
    const { view } = strip(DRY, ground(58, 13), {
      build: { ...DUNLIN_BUILD, undo: "lean to 12" },
    });
    const undo = screen.getByRole("button", { name: /Undo/ });
    expect(undo.title).toContain("lean to 12");
    await userEvent.click(undo);
    expect(view.edit.mutate).toHaveBeenCalledExactlyOnceWith({ kind: "undo" });
    expect(screen.getByRole("button", { name: /Redo|again/i })).toHaveProperty("disabled", true);
  });
});
