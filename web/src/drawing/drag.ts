import type { BuildDocument } from "../api/queries";
import type { Point } from "./geometry";
import type { Drawing, Placed, ViewName } from "./views";
import { turned } from "./geometry";

/** From the page back to a view's own coordinates [mm]: what `toPage` undoes. */
export function fromPage(drawing: Drawing, at: Placed, [px, py]: Point): Point {
  const [u, v] = [(px - at.x) / at.scale, (py - at.y) / at.scale];
  const back = (angle: number): Point => {
    const [a, b] = turned([u, v], -angle);
    return [-a, -b];
  };
  if (at.view === "plan") return [-u, v];
  return at.view === "side" ? back(drawing.nose_up_deg) : back(drawing.lean_right_deg);
}

/** What can be taken hold of in a view: a place, the way it moves, and the figures that it sets. */
export interface Grip {
  key: string;
  words: string;
  view: ViewName;
  /** Its ends in the view's coordinates [mm]: two for an edge, one for a point. */
  ends: readonly Point[];
  /** Which coordinate a move changes: 0 or 1; null for both. */
  axis: 0 | 1 | null;
  /** Sign and fields for each coordinate that moves. */
  sets: readonly { axis: 0 | 1; sign: 1 | -1; fields: readonly string[] }[];
}

/** A length rounded to the grid of the units in use: 1 mm, or a sixteenth of an inch. */
export function snapped(mm: number, system: "metric" | "us", fine: boolean): number {
  const grid = system === "metric" ? (fine ? 0.5 : 1) : fine ? 25.4 / 32 : 25.4 / 16;
  return Math.round(Math.round(mm / grid) * grid * 1000) / 1000;
}

type EdgeFields = (index: number, side: "rear" | "front" | "right" | "left") => string[];

type Zone = BuildDocument["pan"]["zones"][number];
interface Edges {
  rear: number;
  front: number;
  right: number;
  left: number;
}

/** The edges of a zone in plan, but those that a zone before it has already. */
function edgeGrips(
  zone: Zone,
  index: number,
  { rear, front, right, left }: Edges,
  edgeFields: EdgeFields,
  taken: Set<string>,
): Grip[] {
  const sides: ["rear" | "front" | "right" | "left", 0 | 1, Point, Point][] = [
    ["rear", 0, [rear, right], [rear, left]],
    ["front", 0, [front, right], [front, left]],
    ["right", 1, [rear, right], [front, right]],
    ["left", 1, [rear, left], [front, left]],
  ];
  return sides.flatMap(([side, axis, from, to]) => {
    const fields = edgeFields(index, side);
    const key = [...fields].sort().join();
    if (taken.has(key)) return [];
    taken.add(key);
    const grip: Grip = {
      key: `zone-${zone.id}-${side}`,
      words: `${side} edge of ${zone.name}`,
      view: "plan",
      ends: [from, to],
      axis,
      sets: [{ axis, sign: 1, fields }],
    };
    return [grip];
  });
}

/** The flat floor of a zone in each section that cuts it. */
function floorGrips(
  zone: Zone,
  { rear, front, right, left }: Edges,
  cutAt: { x: number; y: number },
): Grip[] {
  if (zone.floor.kind !== "flat") return [];
  const depth = -zone.floor.depth_mm;
  const floor = (view: "side" | "front", from: number, to: number): Grip => ({
    key: `floor-${zone.id}-${view}`,
    words: `floor of ${zone.name}`,
    view,
    ends: [
      [from, depth],
      [to, depth],
    ],
    axis: 1,
    sets: [{ axis: 1, sign: -1, fields: [`pan.zones.${zone.id}.floor.depth_mm`] }],
  });
  return [
    ...(right < cutAt.y && cutAt.y < left ? [floor("side", rear, front)] : []),
    ...(rear < cutAt.x && cutAt.x < front ? [floor("front", right, left)] : []),
  ];
}

/** A place in plan that moves both ways, by the fields of its two coordinates. */
const placeGrip = (
  key: string,
  words: string,
  at: Point,
  [ahead, left]: readonly [string, string],
): Grip => ({
  key,
  words,
  view: "plan",
  ends: [at],
  axis: null,
  sets: [
    { axis: 0, sign: 1, fields: [ahead] },
    { axis: 1, sign: 1, fields: [left] },
  ],
});

/** All grips of a build: edges of rectangular zones, flat floors, mouth, ends of upright plates. */
export function gripsOf(
  { pan, pickup }: BuildDocument,
  cutAt: { y: number; x: number },
  edgesOf: (zone: Zone) => Record<string, number> | null,
  edgeFields: EdgeFields,
): Grip[] {
  const taken = new Set<string>();
  const zones = pan.zones.flatMap((zone, index) => {
    const found = edgesOf(zone);
    if (!found) return [];
    const { rear = 0, front = 0, right = 0, left = 0 } = found;
    const edges = { rear, front, right, left };
    return [...edgeGrips(zone, index, edges, edgeFields, taken), ...floorGrips(zone, edges, cutAt)];
  });
  const mouth = placeGrip(
    "mouth",
    "mouth",
    [pickup.x_mm, pickup.y_mm],
    ["pickup.x_mm", "pickup.y_mm"],
  );
  const plates = pan.plates.flatMap((plate) =>
    plate.kind !== "vertical"
      ? []
      : (["from_mm", "to_mm"] as const).map((end) =>
          placeGrip(
            `plate-${plate.id}-${end}`,
            `${end === "from_mm" ? "start" : "end"} of ${plate.name}`,
            plate[end],
            [`pan.plates.${plate.id}.${end}.0`, `pan.plates.${plate.id}.${end}.1`],
          ),
        ),
  );
  const bosses = pan.bosses.map((boss) =>
    placeGrip(
      `boss-${boss.id}`,
      boss.name,
      [boss.x_mm, boss.y_mm],
      [`pan.bosses.${boss.id}.x_mm`, `pan.bosses.${boss.id}.y_mm`],
    ),
  );
  return [...zones, mouth, ...plates, ...bosses];
}
