import { existsSync, readdirSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { GROUPS } from "../document/stage";
import { FIGURES, HOME, SCREENS, STAGES, stageOf, STAGES_OF } from "./registry";

const FOLDERS = readdirSync("src/stages").sort();

describe("the registry of stages", () => {
  it("has one for each folder, by the folder's own name", () => {
    expect(STAGES.map(({ key }) => key).sort()).toEqual(FOLDERS);
    expect(FOLDERS.every((folder) => existsSync(`src/stages/${folder}/index.ts`))).toBe(true);
  });

  it("keeps them in the order of the work, in the four parts of the job", () => {
    const orders = STAGES.map(({ order }) => order);
    expect(new Set(orders).size).toBe(orders.length);
    expect(STAGES_OF.map(({ name }) => name)).toEqual([...GROUPS]);
    expect(STAGES_OF.flatMap(({ stages }) => stages)).toEqual(STAGES);
  });

  it("opens a build at the stage that says so, which has a screen", () => {
    expect(STAGES.filter(({ isHome }) => isHome)).toHaveLength(1);
    expect(stageOf(HOME)?.isHome).toBe(true);
    expect(SCREENS[HOME]).toBeDefined();
  });

  it("has words for what each does, and a screen", () => {
    for (const { key, words } of STAGES) {
      expect(words, key).not.toBe("");
      expect(SCREENS[key], key).toBeDefined();
    }
    expect(stageOf("nowhere")).toBeUndefined();
  });

  it("gives every figure of the command box to one stage", () => {
    const names = STAGES.flatMap(({ figures }) => Object.keys(figures ?? {}));
    expect(new Set(names).size).toBe(names.length);
    expect(Object.keys(FIGURES).sort()).toEqual(names.sort());
    expect(FIGURES["mouth gap"]).toBe("pickup.gap_mm");
  });

  it("gives no letter to two stages", () => {
    const letters = STAGES.flatMap(({ letter }) => (letter ? [letter] : []));
    expect(new Set(letters).size).toBe(letters.length);
  });
});
