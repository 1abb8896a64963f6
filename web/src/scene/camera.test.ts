import { describe, expect, it } from "vitest";
import { dragged, FIRST_STANCE, onPage, projectionOf, viewerOf } from "./camera";
import { dot, type Vector } from "./solid";

const upright: Vector = [0, 0, 1];
const box: Vector[] = [
  [0, -100, -100],
  [400, 100, 0],
];

describe("viewerOf", () => {
  it("stands at the engine's left, or wherever it is turned", () => {
    expect(viewerOf({ turn: 0, lift: 0, zoom: 1 }, upright)).toEqual([0, 1, 0]);
    const behind = viewerOf({ turn: -90, lift: 0, zoom: 1 }, upright);
    expect(behind[0]).toBeCloseTo(-1);
    expect(viewerOf({ turn: 0, lift: -85, zoom: 1 }, upright)[2]).toBeLessThan(-0.99);
  });
});

describe("projectionOf", () => {
  it("puts the nose left, up upward, and everything on the page", () => {
    const made = projectionOf({ turn: 0, lift: 0, zoom: 1 }, upright, box, 500, 300, {
      x: 50,
      top: 50,
      bottom: 50,
    });
    const nose = onPage(made, [400, 0, -50]);
    const tail = onPage(made, [0, 0, -50]);
    expect(nose[0]).toBeCloseTo(50);
    expect(tail[0]).toBeCloseTo(450);
    expect(onPage(made, [0, 0, 0])[1]).toBeLessThan(tail[1]);
    expect(dot(made.right, made.up)).toBeCloseTo(0);
  });
});

describe("dragged", () => {
  it("turns all round and never tips over", () => {
    expect(dragged(FIRST_STANCE, 0, 1000).lift).toBe(85);
    expect(dragged({ turn: 170, lift: 0, zoom: 1 }, -40, 0).turn).toBe(-170);
  });
});
