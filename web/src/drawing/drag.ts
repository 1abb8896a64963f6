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

/** All grips of a build: edges of rectangular zones, flat floors, mouth, ends of upright plates. */
export function gripsOf(
  { pan, pickup }: BuildDocument,
  cutAt: { y: number; x: number },
  edgesOf: (zone: BuildDocument["pan"]["zones"][number]) => Record<string, number> | null,
  edgeFields: EdgeFields,
): Grip[] {
  const grips: Grip[] = [];
  const taken = new Set<string>();
  pan.zones.forEach((zone, index) => {
    const edges = edgesOf(zone);
    if (!edges) return;
    const { rear = 0, front = 0, right = 0, left = 0 } = edges;
    const sides: ["rear" | "front" | "right" | "left", 0 | 1, Point, Point][] = [
      ["rear", 0, [rear, right], [rear, left]],
      ["front", 0, [front, right], [front, left]],
      ["right", 1, [rear, right], [front, right]],
      ["left", 1, [rear, left], [front, left]],
    ];
    for (const [side, axis, from, to] of sides) {
      const fields = edgeFields(index, side);
      const key = [...fields].sort().join();
      if (taken.has(key)) continue; // shared with a zone before it
      taken.add(key);
      grips.push({
        key: `zone-${index}-${side}`,
        words: `${side} edge of ${zone.name}`,
        view: "plan",
        ends: [from, to],
        axis,
        sets: [{ axis, sign: 1, fields }],
      });
    }
    if (zone.floor.kind !== "flat") return;
    const depth = -zone.floor.depth_mm;
    const set = { axis: 1, sign: -1, fields: [`pan.zones.${index}.floor.depth_mm`] } as const;
    if (right < cutAt.y && cutAt.y < left)
      grips.push({
        key: `floor-${index}-side`,
        words: `floor of ${zone.name}`,
        view: "side",
        ends: [
          [rear, depth],
          [front, depth],
        ],
        axis: 1,
        sets: [set],
      });
    if (rear < cutAt.x && cutAt.x < front)
      grips.push({
        key: `floor-${index}-front`,
        words: `floor of ${zone.name}`,
        view: "front",
        ends: [
          [right, depth],
          [left, depth],
        ],
        axis: 1,
        sets: [set],
      });
  });
  grips.push({
    key: "mouth",
    words: "mouth",
    view: "plan",
    ends: [[pickup.x_mm, pickup.y_mm]],
    axis: null,
    sets: [
      { axis: 0, sign: 1, fields: ["pickup.x_mm"] },
      { axis: 1, sign: 1, fields: ["pickup.y_mm"] },
    ],
  });
  pan.plates.forEach((plate, index) => {
    if (plate.kind !== "vertical") return;
    for (const end of ["from_mm", "to_mm"] as const)
      grips.push({
        key: `plate-${index}-${end}`,
        words: `${end === "from_mm" ? "start" : "end"} of ${plate.name}`,
        view: "plan",
        ends: [plate[end]],
        axis: null,
        sets: [
          { axis: 0, sign: 1, fields: [`pan.plates.${index}.${end}.0`] },
          { axis: 1, sign: 1, fields: [`pan.plates.${index}.${end}.1`] },
        ],
      });
  });
  pan.bosses.forEach((boss, index) => {
    grips.push({
      key: `boss-${index}`,
      words: boss.name,
      view: "plan",
      ends: [[boss.x_mm, boss.y_mm]],
      axis: null,
      sets: [
        { axis: 0, sign: 1, fields: [`pan.bosses.${index}.x_mm`] },
        { axis: 1, sign: 1, fields: [`pan.bosses.${index}.y_mm`] },
      ],
    });
  });
  return grips;
}
