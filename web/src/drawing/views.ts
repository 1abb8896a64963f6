import type { Schemas } from "../api/client";
import { boxOf, turned, type Box, type HalfPlane, type Point, type Ring } from "./geometry";

export type Drawing = Schemas["DrawingOut"];
export type SectionData = Schemas["SectionOut"];

/** Where the oil lies: `normal · point = level` in the engine's frame, from the core. */
export interface OilSurface {
  normal: readonly [number, number, number];
  level_mm: number;
}

export type ViewName = "plan" | "side" | "front";

/**
 * From the engine's frame to the page [mm], v downward. Nose left: the plan from above, the side
 * from the engine's left, the front section looking toward the nose, so the engine's right is right.
 */
export const toPage: Record<ViewName, (drawing: Drawing, point: Point) => Point> = {
  plan: (_, [x, y]) => [-x, y],
  side: (drawing, [x, z]) => turned([-x, -z], drawing.nose_up_deg),
  front: (drawing, [y, z]) => turned([-y, -z], drawing.lean_right_deg),
};

/** The oil's side of its surface, in the coordinates of a section. */
export function sectionHalf(oil: OilSurface, view: "side" | "front", at: number): HalfPlane {
  const [x, y, z] = oil.normal;
  return view === "side"
    ? { a: x, b: z, c: oil.level_mm - y * at }
    : { a: y, b: z, c: oil.level_mm - x * at };
}

/** In plan: where the floor of a zone (or its top, once the tilt is past upright) is under oil. */
export function planHalf(oil: OilSurface, zone: Schemas["ZoneOut"]): HalfPlane {
  const [x, y, z] = oil.normal;
  const [height, slopeX, slopeY] = z >= 0 ? zone.floor : [zone.top_mm, 0, 0];
  return { a: x + z * slopeX, b: y + z * slopeY, c: oil.level_mm - z * height };
}

/** All that a view has to have room for; a section's is the same wherever it is cut. */
const ringsOf = (drawing: Drawing, view: ViewName): Ring[] => {
  if (view === "plan") return drawing.zones.map((zone) => zone.outline_mm);
  const section = view === "side" ? drawing.side : drawing.front;
  const whole = drawing.solid.vertices_mm.map(([x, y, z]): Point => [view === "side" ? x : y, z]);
  return [...section.inside_mm, ...section.skirt_mm, whole];
};

/** Where the upright sections are cut [mm]; null for the mouth. */
export interface CutAt {
  side: number | null;
  front: number | null;
}

/** How far a section can be moved [mm]: within the pan. */
export function cutRange(drawing: Drawing, view: "side" | "front"): readonly [number, number] {
  const box = boxOf(drawing.zones.flatMap((zone) => zone.outline_mm));
  const [low, high] = view === "side" ? [box.top, box.bottom] : [box.left, box.right];
  return [Math.ceil(low + 1), Math.floor(high - 1)];
}

/** Where a section is cut, as measured from the mouth [mm]: toward the left, or toward the nose. */
export function fromMouth(drawing: Drawing, view: "side" | "front"): number {
  const { mouth } = drawing;
  return drawing[view].at_mm - (view === "side" ? mouth.y_mm : mouth.x_mm);
}

/** The space that a view takes on the page [mm], and those of others that it stands beside. */
export function viewBox(drawing: Drawing, view: ViewName, others: readonly Drawing[] = []): Box {
  const points = [drawing, ...others].flatMap((each) =>
    ringsOf(each, view).flatMap((ring) => ring.map((point) => toPage[view](each, point))),
  );
  return boxOf(points);
}

export interface Placed {
  view: ViewName;
  scale: number;
  /** Place on the page of the view's own origin [px]. */
  x: number;
  y: number;
  box: Box;
}

const MARGIN = { left: 34, right: 40, top: 46, bottom: 50 };
const GAP_X = 56;
const GAP_Y = 66;
const NOSE_LINE = 26; // [px] of words over the plan
/** Left free under a view alone, for the words and the button beside it [px]. */
const BELOW = 150;

function placed(view: ViewName, box: Box, scale: number, left: number, top: number): Placed {
  return { view, box, scale, x: left - box.left * scale, y: top - box.top * scale };
}

/** The three views at one scale: plan over side on the left, the front section to the right. */
export function layoutWide(drawing: Drawing, width: number, height: number): Placed[] {
  const [plan, side, front] = (["plan", "side", "front"] as const).map((view) =>
    viewBox(drawing, view),
  ) as [Box, Box, Box];
  const left = Math.max(plan.right - plan.left, side.right - side.left);
  const free = width - MARGIN.left - MARGIN.right - GAP_X;
  const tall = height - MARGIN.top - MARGIN.bottom - GAP_Y;
  const scale = Math.max(
    0.05,
    Math.min(
      free / (left + front.right - front.left),
      tall / (plan.bottom - plan.top + side.bottom - side.top),
    ),
  );
  const sideTop = MARGIN.top + (plan.bottom - plan.top) * scale + GAP_Y;
  return [
    placed("plan", plan, scale, MARGIN.left, MARGIN.top),
    placed("side", side, scale, MARGIN.left, sideTop),
    placed(
      "front",
      front,
      scale,
      MARGIN.left + left * scale + GAP_X,
      Math.max(MARGIN.top, sideTop + (side.bottom - side.top - (front.bottom - front.top)) * scale),
    ),
  ];
}

/** The views one under another, for a phone; the sheet's height follows. */
export function layoutTall(drawing: Drawing, width: number): { views: Placed[]; height: number } {
  const boxes = (["side", "front", "plan"] as const).map((view) => ({
    view,
    box: viewBox(drawing, view),
  }));
  const widest = Math.max(...boxes.map(({ box }) => box.right - box.left));
  const scale = (width - MARGIN.left - MARGIN.right) / widest;
  let top = MARGIN.top;
  const views = boxes.map(({ view, box }) => {
    // over the plan stands where the nose is, unless that is at the page's left
    if (view === "plan" && drawing.nose_points !== "front") top += NOSE_LINE;
    const here = placed(view, box, scale, MARGIN.left, top);
    top += (box.bottom - box.top) * scale + GAP_Y;
    return here;
  });
  return { views, height: top };
}

/** Both sections side by side, at one scale with those of other drawings. */
export function layoutSections(
  drawing: Drawing,
  others: readonly Drawing[],
  width: number,
  height: number,
): Placed[] {
  const side = viewBox(drawing, "side", others);
  const front = viewBox(drawing, "front", others);
  const wide = side.right - side.left + front.right - front.left;
  const high = Math.max(side.bottom - side.top, front.bottom - front.top);
  const scale = Math.max(
    0.05,
    Math.min(
      (width - MARGIN.left - MARGIN.right - GAP_X) / wide,
      (height - MARGIN.top - MARGIN.bottom) / high,
    ),
  );
  const second = MARGIN.left + (side.right - side.left) * scale + GAP_X;
  return [
    placed("side", side, scale, MARGIN.left, MARGIN.top),
    placed("front", front, scale, second, MARGIN.top),
  ];
}

/** One view alone, as large as it will go. */
export function layoutOne(
  drawing: Drawing,
  view: ViewName,
  width: number,
  height: number,
  others: readonly Drawing[] = [],
): Placed[] {
  const box = viewBox(drawing, view, others);
  const scale = Math.min(
    (width - MARGIN.left - MARGIN.right - 30) / (box.right - box.left),
    (height - MARGIN.top - MARGIN.bottom - BELOW) / (box.bottom - box.top),
  );
  return [placed(view, box, Math.max(0.05, scale), MARGIN.left, MARGIN.top + 30)];
}
