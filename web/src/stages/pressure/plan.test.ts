import { describe, expect, it } from "vitest";
import type { Component } from "../../document/circuit/circuit";
import { BOX } from "../../testing/drawings";
import { STAGE } from "../../testing/pressure";
import { planOf } from "./plan";

const part = (id: string, kind: string): Component =>
  ({ id, kind, name: kind.replace("_", " ") }) as unknown as Component;
const PARTS = [
  part("c3", "pressure_stage"),
  part("c4", "relief"),
  part("c5", "filter"),
  part("c6", "gallery"),
  part("c8", "head"),
  part("c9", "crankcase"),
  part("c15", "check_valve"),
  part("c16", "tee"),
  part("c17", "shut_off_valve"),
  part("c18", "accumulator"),
];

describe("the circuit on the sheet", () => {
  const plan = planOf(STAGE.layout, PARTS, BOX, 780, 430);
  it("has every part once, the relief beside the pump", () => {
    expect(plan.parts.map(({ id }) => id).sort()).toEqual(["c15", "c16", "c17", "c5"]);
    expect(plan.relief?.id).toBe("c4");
    expect(plan.bottles.map(({ id }) => id)).toEqual(["c18"]);
    expect(plan.consumers.map(({ id, kind }) => [id, kind])).toEqual([["c8", "head"]]);
  });
  it("says what the gallery has over it, or under its bearings where turbos leave no room", () => {
    expect(plan.galleryWords[1]).toBe(plan.gallery.from[1] - 34);
    const turbos = ["c21", "c22", "c23"].map((id) => part(id, "turbo"));
    const feed = (component: string) => ({
      root: "c6",
      runs: [],
      parts: [{ component, node: 4, run: "" }],
    });
    const fed = [...STAGE.layout.branches, ...turbos.map(({ id }) => feed(id))];
    const crowded = { ...STAGE.layout, branches: fed } as typeof STAGE.layout;
    const at = (height: number): number => {
      const { galleryWords, gallery } = planOf(crowded, [...PARTS, ...turbos], BOX, 780, height);
      return galleryWords[1] - gallery.from[1];
    };
    expect([at(640), at(372)]).toEqual([132, -34]); // no room for them there on a low sheet
  });
  it("stays on the sheet at every size", () => {
    for (const [width, height] of [
      [680, 372],
      [780, 430],
      [1200, 700],
    ] as const) {
      const { pipes, bottles, parts } = planOf(STAGE.layout, PARTS, BOX, width, height);
      const places = [
        ...pipes.flatMap(({ line }) => line),
        ...parts.map(({ x, y }) => [x, y] as const),
        ...bottles.flatMap(
          (b) =>
            [
              [b.x, b.y],
              [b.x + b.width, b.y + b.height],
            ] as const,
        ),
      ];
      for (const [x, y] of places) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(width);
        expect(y).toBeGreaterThanOrEqual(0);
        expect(y).toBeLessThanOrEqual(height);
      }
    }
  });
  it("shows in each pipe what is behind the part before it", () => {
    const node = (key: string): number | undefined =>
      plan.pipes.find((pipe) => pipe.key === key)?.node;
    expect([node("to c5"), node("to c15"), node("to the gallery")]).toEqual([1, 2, 3]);
    expect(node("pickup tube")).toBe(0);
    expect(node("c18 1")).toBe(4);
  });
  it("runs through a joint, and ends at a part's own sides", () => {
    const [tee, filter] = ["c16", "c5"].map((id) => plan.parts.find((each) => each.id === id));
    const pipeTo = (id: string) => plan.pipes.find(({ key }) => key === `to ${id}`)?.line.at(-1);
    expect(pipeTo("c16")?.[0]).toBe(tee?.x);
    expect(pipeTo("c5")?.[0]).toBeLessThan((filter?.x ?? 0) - 10);
  });
  it("goes from left to right along the row", () => {
    const row = plan.parts.filter(({ id }) => id !== "c17").map(({ x }) => x);
    expect(row).toEqual([...row].sort((a, b) => a - b));
  });
  it("gives the room to the row where there is no bottle", () => {
    const bare = { ...STAGE.layout, branches: STAGE.layout.branches.slice(1), bottles: [] };
    const without = planOf(bare, PARTS, BOX, 780, 430);
    expect(without.gallery.from[1]).toBeLessThan(plan.gallery.from[1]);
    expect(without.bottles).toEqual([]);
  });
});
