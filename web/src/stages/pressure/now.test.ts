import { describe, expect, it } from "vitest";
import { STAGE } from "../../testing/pressure";
import { lapTable } from "./lapTable";
import { drawnAt, drunkAt, givenAt, nowAt } from "./now";
import { rowsOf } from "./MomentTable";

describe("what the circuit carries at a moment", () => {
  const now = nowAt(STAGE, 1.02);
  it("is that of the nearest sample", () => {
    expect([now.index, now.gallery, now.mouthGas]).toEqual([2, 2.4, 0.6]);
    expect(now.pressure(2)).toBe(2.6);
    expect(now.flow("c4", "relief")).toBe(0);
    expect(now.flow("c4", "nothing")).toBe(0);
    expect(now.heldL).toBeCloseTo(0.7);
  });
  it("tells what the mouth lets in and what the engine drinks", () => {
    expect(drawnAt(STAGE, now).oil).toBeCloseTo(34 * 0.4);
    expect(drunkAt(STAGE, now)).toBeCloseTo(7.6);
  });
  it("tells what a bottle gives and takes", () => {
    expect(givenAt(STAGE, now, "c18")).toBeCloseTo(0.25 * 60);
    expect(givenAt(STAGE, nowAt(STAGE, 2), "c18")).toBeCloseTo(-0.2 * 60);
    expect(givenAt(STAGE, now, "none")).toBe(0);
  });
});

describe("the moment as a table", () => {
  const rows = rowsOf(STAGE, new Map([["c18", "bottle"]]), 1);
  it("has every part once, in the order of the oil", () => {
    expect(rows.map(({ key }) => key)).toEqual([
      "mouth",
      "inlet",
      "c3",
      "c4",
      "c5",
      "c15",
      "c16",
      "c17",
      "c18",
      "c8",
      "c6",
      "c9 thrown",
    ]);
  });
  it("tells oil where it lies", () => {
    const of = (key: string): number | null | undefined =>
      rows.find((row) => row.key === key)?.litres;
    expect([of("c18"), of("c8"), of("c9 thrown"), of("c5")]).toEqual([0.75, 0.25, 0.45, null]);
  });
});

describe("the lap as a table", () => {
  const { headings, rows } = lapTable(STAGE, new Map([["c18", "bottle"]]), false);
  it("has a row a sample and a column a thing", () => {
    expect(rows).toHaveLength(5);
    expect(rows.every((row) => row.length === headings.length)).toBe(true);
    expect(headings).toContain("bottle, oil in it [L]");
    expect(headings).not.toContain("measured [bar]");
    expect(headings).toContain("oil in the pan [L]");
  });
  it("has what was measured where something was", () => {
    const measured = { ...STAGE.samples, measured_bar: [1, 2, 3, 4, 5] };
    const table = lapTable({ ...STAGE, samples: measured }, new Map(), true);
    expect(table.headings).toContain("oil in tank, pan and lines [L]");
    expect(table.rows[2]?.[table.headings.indexOf("measured [bar]")]).toBe(3);
  });
});
