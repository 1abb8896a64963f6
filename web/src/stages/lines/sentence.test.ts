import { describe, expect, it } from "vitest";
import { CAUTION, lineOf, STAGE } from "../../testing/lines";
import { rowsOf } from "./chainWords";
import { linesTable } from "./linesTable";
import { allSentence, beginSentence, lineSentence, worstOf } from "./sentence";

const UNITS = {} as never;

describe("what is said of lines", () => {
  it("is what is wrong first", () => {
    const line = lineOf(2, { state: "caution", checks: [CAUTION] });
    expect(lineSentence(line, UNITS, "metric")).toBe(
      "Line 2, to the cooler: no clips told: one every 300 mm",
    );
    const sleeve = { ...CAUTION, words: "O-ring is old" };
    expect(lineSentence(lineOf(1, { checks: [sleeve] }), UNITS, "metric")).toContain(": O-ring");
  });

  it("is sound where nothing is near", () => {
    expect(lineSentence(lineOf(1, { gaps: [] }), UNITS, "metric")).toContain("sound");
  });

  it("counts lines and metres", () => {
    expect(allSentence(STAGE)).toBe("2 lines, 0.5 m, 1 without a length");
    const none = { ...STAGE, lines: { ...STAGE.lines, lines: [] } };
    expect(allSentence(none)).toContain("No hose");
    const one = { ...STAGE, lines: { ...STAGE.lines, lines: [lineOf(1)] } };
    expect(allSentence(one)).toBe("one line, 0.5 m");
  });

  it("says when work can begin", () => {
    expect(beginSentence(STAGE)).toContain("2 of 2 parts to come");
    expect(beginSentence(STAGE)).toContain("3 December");
    expect(beginSentence({ ...STAGE, to_come: 0 })).toContain("work can begin");
    const none = { ...STAGE, lines: { ...STAGE.lines, order: [] } };
    expect(beginSentence(none)).toBe("Nothing is to be bought.");
  });

  it("looks at what is bad first, then at what is laid and not sound", () => {
    const [good, unlaid] = [lineOf(1), lineOf(2, { state: "caution", points: [] })];
    const [laid, bad] = [lineOf(3, { state: "caution" }), lineOf(4, { state: "bad" })];
    expect(worstOf([good, unlaid, laid, bad])).toBe(bad);
    expect(worstOf([good, unlaid, laid])).toBe(laid);
    expect(worstOf([good, unlaid])).toBe(good);
    expect(worstOf([])).toBeUndefined();
  });

  it("is a table of one row a line", () => {
    const table = linesTable(STAGE);
    expect(table.rows).toHaveLength(2);
    expect(table.rows[0]?.at(-1)).toBe("sound");
    expect(table.rows[1]?.at(-1)).toContain("No clips");
  });
});

describe("words over a part", () => {
  it("stand in two rows at the most", () => {
    expect(rowsOf("adaptor")).toEqual(["adaptor"]);
    expect(rowsOf("taper pipe 1/2 female")).toEqual(["taper pipe 1/2", "female"]);
    expect(rowsOf("turbo drain flange with gasket")).toEqual(["turbo drain", "flange with gasket"]);
  });
});
