import { describe, expect, it } from "vitest";
import type { ShownVerdict } from "../parts/verdict";
import { foldedWords } from "./FoldedHead";

const VERDICT: ShownVerdict = {
  state: "not_safe",
  headline: "Not safe",
  sentence: "",
  dry_s: 12.04,
  dip_count: 9,
  under_s: 2.5,
  pressure_dip_count: 3,
};

describe("the head in one line", () => {
  it.each([
    [3, 12.04, "3 pressure dips, dry 12.0 s/lap"],
    [1, 12.04, "1 pressure dip, dry 12.0 s/lap"],
    [0, 4, "pressure holds, dry 4.0 s/lap"],
    [null, 4, "dry 4.0 s/lap"],
    [null, null, "Not safe"],
  ])("tells what the gallery does first: %s dips, dry %s", (dips, dry, words) => {
    expect(foldedWords({ ...VERDICT, pressure_dip_count: dips, dry_s: dry })).toBe(words);
  });
});
