// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { PanFigures, Slosh } from "../api/queries";
import type { Forecast } from "../document/BuildContext";
import { DUNLIN_BUILD } from "../testing/documents";
import { forecastOf, showInBuild, viewOf } from "../testing/view";
import { JobRail } from "./JobRail";

const state = vi.hoisted((): { pan: unknown } => ({ pan: undefined }));
vi.mock("../api/queries", async (original) => ({
  ...(await original()),
  usePan: () => ({ data: state.pan }),
}));

const checks = (...states: string[]): PanFigures =>
  ({ ground: null, checks: states.map((each) => ({ state: each })) }) as unknown as PanFigures;
const verdict = (given: object): Forecast =>
  forecastOf({ shown: { verdict: given } as unknown as Slosh });
const word = (name: RegExp): string => screen.getByRole("link", { name }).textContent;

beforeEach(() => {
  state.pan = undefined;
});

describe("JobRail", () => {
  it("lists the twelve stages in the order of the work, each with its state in a word", async () => {
    const onPick = vi.fn();
    state.pan = checks("bad", "caution", "good");
    showInBuild(<JobRail buildId={7} onPick={onPick} />);
    const links = screen.getAllByRole("link");
    expect(links.map((link) => link.getAttribute("href"))).toEqual(
      [
        ...["car", "pan", "loads", "slosh", "pressure", "drains"],
        ...["options", "dry-sump", "lines", "fit", "job-card", "track-book"],
      ].map((key) => `/builds/7/${key}`),
    );
    expect(screen.getByRole("link", { current: "page" }).textContent).toContain("2 checks");
    expect(links.at(-1)?.textContent).toContain("Track book");
    await userEvent.click(links[2] ?? document.body);
    expect(onPick).toHaveBeenCalledOnce();
  });

  it.each([
    [{ state: "not_safe", dry_s: 4.8, dip_count: 8 }, "8 dips"],
    [{ state: "not_safe", dry_s: 0.8, dip_count: 1 }, "1 dip"],
    [{ state: "caution", dry_s: 0, dip_count: 0 }, "draws air"],
    [{ state: "sound", dry_s: 0, dip_count: 0 }, "sound"],
    [{ state: "no_lap", dry_s: null, dip_count: null }, "no lap"],
  ])("says the verdict of Slosh in a word: %o", (given, said) => {
    showInBuild(<JobRail buildId={7} />, viewOf({ forecast: verdict(given) }));
    expect(word(/Slosh/)).toContain(said);
  });

  it("calls a template's numbers nobody's", () => {
    const build = { ...DUNLIN_BUILD, invented: ["car" as const, "pan" as const] };
    const sound = verdict({ state: "sound", dry_s: 0, dip_count: 0, headline: "", sentence: "" });
    showInBuild(<JobRail buildId={7} />, viewOf({ build, forecast: sound }));
    for (const name of [/Car/, /Pan/, /Slosh/]) expect(word(name)).toContain("not yours");
  });

  it("says what the car still wants", () => {
    const low = { ground: { margin_mm: -3 }, checks: [] };
    state.pan = low;
    showInBuild(<JobRail buildId={7} />);
    expect(word(/Car/)).toContain("too low");
    expect(word(/Pan/)).toContain("sound");
    expect(word(/Loads/)).toContain("no lap");
  });
});
