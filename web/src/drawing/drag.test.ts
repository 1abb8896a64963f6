import { describe, expect, it } from "vitest";
import { fromPage, snapped, type Grip } from "./drag";
import { figuresOf } from "./Grips";
import { toPage, type Drawing, type Placed, type ViewName } from "./views";

const drawing = { lean_right_deg: 12, nose_up_deg: 2 } as Drawing;

describe("from the page back", () => {
  it.each(["plan", "side", "front"] as ViewName[])("undoes toPage in %s", (view) => {
    const at: Placed = {
      view,
      scale: 0.8,
      x: 130,
      y: 70,
      box: { left: 0, right: 1, top: 0, bottom: 1 },
    };
    const [u, v] = toPage[view](drawing, [212, -97]);
    const back = fromPage(drawing, at, [at.x + u * at.scale, at.y + v * at.scale]);
    expect(back[0]).toBeCloseTo(212);
    expect(back[1]).toBeCloseTo(-97);
  });
});

describe("the grid", () => {
  it("is a millimetre, or a sixteenth of an inch", () => {
    expect(snapped(137.6, "metric", false)).toBe(138);
    expect(snapped(25.8, "us", false)).toBeCloseTo(25.4);
    expect(snapped(27, "us", false)).toBeCloseTo(26.9875, 2);
  });
});

describe("a grip that is moved", () => {
  const floor: Grip = {
    key: "f",
    words: "floor",
    view: "side",
    ends: [
      [0, -138],
      [100, -138],
    ],
    axis: 1,
    sets: [{ axis: 1, sign: -1, fields: ["pan.zones.0.floor.depth_mm"] }],
  };
  it("sets a depth downward", () => {
    expect(figuresOf(floor, [0, -10.3], "metric", false)).toEqual([
      { fields: ["pan.zones.0.floor.depth_mm"], mm: 148 },
    ]);
  });
  it("sets nothing when it comes back to where it was", () => {
    expect(figuresOf(floor, [0, 0.2], "metric", false)).toEqual([]);
  });
});
