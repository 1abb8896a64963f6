// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { showInBuild } from "../../testing/view";
import { Guesses } from "./Guesses";

const told = vi.hoisted((): { answer: unknown } => ({ answer: {} }));
vi.mock("../../api/queries", async (original) => ({
  ...(await original()),
  useGuesses: () => told.answer,
}));

const DRAINS: Schemas["SwingOut"] = {
  words: "six drains of a head, bore of each",
  likely: 12,
  low: 9,
  high: 16,
  unit: "mm",
  source: "ours",
  dry_s: [6.1, 4.2],
  lowest_share: [0.31, 0.4],
  held_l: [2.6, 2.1],
  moves: true,
};

describe("what is guessed", () => {
  beforeEach(() => {
    told.answer = {};
  });
  it("says that it is being worked out", () => {
    showInBuild(<Guesses />);
    expect(screen.getByText("Trying each guess at both ends…")).toBeTruthy();
  });
  it("is told with its range and what that moves, and counts what moves nothing", () => {
    const still = { ...DRAINS, words: "oil in a filter", moves: false };
    told.answer = { data: { model: "Settled oil.", guesses: [DRAINS, still] } };
    const { container } = showInBuild(<Guesses />);
    expect(container.textContent).toContain("bore of each: 12 mm, likely 9 to 16");
    expect(container.textContent).toContain(
      "dry 6.1 to 4.2 s · lowest 31 to 40 % of usual · holds 2.6 to 2.1 L",
    );
    expect(container.textContent).not.toContain("oil in a filter");
    expect(container.textContent).toContain("1 more move dry time");
  });
  it("needs a lap", () => {
    told.answer = { data: { model: "", guesses: [] } };
    showInBuild(<Guesses />);
    expect(screen.getByText(/Import a lap/)).toBeTruthy();
  });
});
