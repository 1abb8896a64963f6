import { describe, expect, it } from "vitest";
import { clipRing, type Point } from "./geometry";
import { layoutTall, layoutWide, planHalf, sectionHalf, toPage, type Drawing } from "./views";

const ring: [number, number][] = [
  [0, -100],
  [400, -100],
  [400, 0],
  [0, 0],
];

const drawing: Drawing = {
  zones: [
    {
      name: "box",
      outline_mm: [
        [0, -120],
        [400, -120],
        [400, 120],
        [0, 120],
      ],
      floor: [-100, 0, 0],
      top_mm: 0,
      is_open: true,
      is_piece: false,
    },
  ],
  scanned: [],
  faces: [],
  plates: [],
  solid: { vertices_mm: [], tetrahedra: [] },
  rail_mm: [],
  side: { at_mm: 0, inside_mm: [ring], skirt_mm: [], metal_mm: [], plates_mm: [], gates: [] },
  front: { at_mm: 200, inside_mm: [ring], skirt_mm: [], metal_mm: [], plates_mm: [], gates: [] },
  mouth: { x_mm: 200, y_mm: 0, z_mm: -92, half_length_mm: 20, half_width_mm: 20, is_round: true },
  skirt_height_mm: 80,
  lean_right_deg: 12,
  nose_up_deg: 0,
  nose_points: "front",
  standing: { normal: [0, 0, 1], level_mm: -50, cover_mm: 42 },
  oil_in_pan_l: 4.8,
  held: {
    rpm: 4000,
    total_l: 2.2,
    pressed_l: 1.3,
    heads_l: 0.5,
    thrown_l: 0.4,
    coming_back_l: 0,
    learned_l: 0,
  },
  capacity_to_rail_l: 9.6,
  level_curve_l_mm: [],
  around: [],
  crank: null,
};

const tilt = Math.SQRT1_2;

describe("toPage", () => {
  it("puts the nose left, the engine's right at the top of the plan and right of the front", () => {
    expect(toPage.plan(drawing, [400, 0])[0]).toBeLessThan(toPage.plan(drawing, [0, 0])[0]);
    expect(toPage.plan(drawing, [0, -100])[1]).toBeLessThan(toPage.plan(drawing, [0, 100])[1]);
    expect(toPage.front(drawing, [-100, 0])[0]).toBeGreaterThan(0);
  });
  it("leans an engine that leans right to the right: its right side goes down", () => {
    expect(toPage.front(drawing, [-100, 0])[1]).toBeGreaterThan(0);
    expect(toPage.front(drawing, [0, 100])[0]).toBeGreaterThan(0);
  });
});

describe("half planes of the oil", () => {
  it("cuts a section at the core's level", () => {
    const half = sectionHalf({ normal: [0, 0, 1], level_mm: -50 }, "side", 0);
    const heights = clipRing(ring, half).map((point) => point[1]);
    expect(Math.max(...heights)).toBeCloseTo(-50);
  });
  it("counts where the cut is made when the surface leans across it", () => {
    // normal leans left: the surface is lower where y is greater
    const oil = { normal: [0, tilt, tilt] as const, level_mm: 0 };
    const at = (y: number): number => {
      const heights = clipRing(ring, sectionHalf(oil, "side", y)).map((point) => point[1]);
      return Math.max(...heights);
    };
    expect(at(30)).toBeCloseTo(-30);
    expect(at(60)).toBeCloseTo(-60);
  });
  it("finds the waterline on the floor in plan", () => {
    const oil = { normal: [0, tilt, tilt] as const, level_mm: -100 * tilt };
    const zone = drawing.zones[0];
    if (!zone) throw new Error("the drawing has a zone");
    const ys = clipRing(zone.outline_mm as Point[], planHalf(oil, zone)).map((point) => point[1]);
    expect(Math.max(...ys)).toBeCloseTo(0); // the surface meets the floor at y = 0
    expect(Math.min(...ys)).toBeCloseTo(-120);
  });
});

describe("layout", () => {
  it("keeps all views at one scale and inside the sheet", () => {
    const views = layoutWide(drawing, 760, 500);
    expect(new Set(views.map((view) => view.scale)).size).toBe(1);
    for (const { box, scale, x, y } of views) {
      expect(x + box.left * scale).toBeGreaterThanOrEqual(0);
      expect(x + box.right * scale).toBeLessThanOrEqual(760);
      expect(y + box.bottom * scale).toBeLessThanOrEqual(500);
    }
  });
  it("stacks them on a phone", () => {
    const { views, height } = layoutTall(drawing, 390);
    expect(views.map((view) => view.view)).toEqual(["side", "front", "plan"]);
    expect(height).toBeGreaterThan(390);
  });
});
