// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { PanFigures, Session, Slosh } from "../api/queries";
import { DUNLIN, DUNLIN_BUILD } from "../testing/documents";
import { show } from "../testing/shown";
import { HeadStrip } from "./HeadStrip";
import { JobRail } from "./JobRail";

describe("JobRail", () => {
  it("lists the twelve stages in the order of the work, each with its state in a word", async () => {
    const onPick = vi.fn();
    show(
      <MemoryRouter initialEntries={["/builds/7/pan"]}>
        <JobRail
          buildId={7}
          states={{ pan: { mark: "caution", word: "2 checks" } }}
          onPick={onPick}
        />
      </MemoryRouter>,
    );
    const links = screen.getAllByRole("link");
    expect(links).toHaveLength(12);
    expect(links.slice(0, 3).map((link) => link.getAttribute("href"))).toEqual([
      "/builds/7/car",
      "/builds/7/pan",
      "/builds/7/loads",
    ]);
    expect(screen.getByRole("link", { current: "page" }).textContent).toContain("2 checks");
    expect(links.at(-1)?.textContent).toContain("to come");
    await userEvent.click(links[2] ?? document.body);
    expect(onPick).toHaveBeenCalledOnce();
  });
});

const SESSION = { username: "dunlin", workshop: "Reedbank Motors" } as Session;
const DRY = {
  verdict: {
    state: "runs_dry",
    headline: "Not safe",
    sentence: "The pickup runs dry 8 times a lap.",
    dry_s: 4.84,
    dip_count: 8,
  },
} as unknown as Slosh;
const ground = (gap_mm: number, margin_mm: number | null): PanFigures =>
  ({ ground: { gap_mm, margin_mm, at_mm: [212, 0, -138] } }) as unknown as PanFigures;

const [onUndo, onRedo, onHistory, onSignOut] = [vi.fn(), vi.fn(), vi.fn(), vi.fn()];
function strip(
  slosh: Slosh | undefined,
  pan: PanFigures | undefined,
  build = DUNLIN_BUILD,
  moves = false,
): HTMLElement {
  return show(
    <MemoryRouter>
      <HeadStrip
        pending={false}
        saving={false}
        session={SESSION}
        {...{ build, slosh, moves, pan, onUndo, onRedo, onHistory, onSignOut }}
      />
    </MemoryRouter>,
  ).container;
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

  it("says which oil its dry time is of", () => {
    strip(DRY, ground(58, 13), DUNLIN_BUILD, true);
    expect(screen.getByRole("link", { name: /Dry, moving/ })).toBeTruthy();
  });

  it("says in two words what has no figure, never a dash or a zero", () => {
    const head = strip(undefined, ground(58, null));
    expect(screen.getByRole("link", { name: /Lowest gallery/ }).textContent).toContain("to come");
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
    expect(strip(DRY, ground(58, 13)).textContent).toContain("engine along, leaned 12° right");
    const across = {
      ...DUNLIN_BUILD,
      document: {
        ...DUNLIN,
        car: { ...DUNLIN.car, nose_points: "right" as const, lean_right_deg: 0 },
      },
    };
    expect(strip(DRY, ground(58, 13), across).textContent).toContain("engine across, upright");
  });

  it("undoes what there is to undo, and says what that is", async () => {
    strip(DRY, ground(58, 13), { ...DUNLIN_BUILD, undo: "lean to 12" });
    const undo = screen.getByRole("button", { name: /Undo/ });
    expect(undo.title).toContain("lean to 12");
    await userEvent.click(undo);
    expect(onUndo).toHaveBeenCalledOnce();
    expect(screen.getByRole("button", { name: /Redo|again/i })).toHaveProperty("disabled", true);
  });
});
