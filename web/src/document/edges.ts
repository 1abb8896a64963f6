import type { BuildDocument } from "../api/queries";
import { NOT_GIVEN } from "./ids";

export type Zone = BuildDocument["pan"]["zones"][number];
export type Side = "rear" | "front" | "right" | "left";

const TOUCH = 0.05; // mm

const same = (one: number, other: number): boolean => Math.abs(one - other) < TOUCH;

interface Edges {
  rear: number;
  front: number;
  right: number;
  left: number;
}

/** A floor's depth where it is least, and where it is most. */
export function depthsOf(floor: Zone["floor"]): { least: number; most: number } {
  if (floor.kind === "flat") return { least: floor.depth_mm, most: floor.depth_mm };
  const depths =
    floor.kind === "ramp"
      ? [floor.from_depth_mm, floor.to_depth_mm]
      : floor.places_mm.map(([, , depth]) => depth);
  return { least: Math.min(...depths), most: Math.max(...depths) };
}

/** The four edges of a zone that is a rectangle along the engine; null for any other shape. */
export function rectangleOf(zone: Zone): Edges | null {
  const corners = zone.outline_mm;
  if (corners.length !== 4 || zone.floor.kind === "surface") return null;
  const xs = corners.map((corner) => corner[0]);
  const ys = corners.map((corner) => corner[1]);
  const edges = {
    rear: Math.min(...xs),
    front: Math.max(...xs),
    right: Math.min(...ys),
    left: Math.max(...ys),
  };
  const square = corners.every(
    ([x, y]) =>
      (same(x, edges.rear) || same(x, edges.front)) &&
      (same(y, edges.right) || same(y, edges.left)),
  );
  return square ? edges : null;
}

/** Whether stretches [a, b] and [c, d] share more than a point. */
const overlap = (a: number, b: number, c: number, d: number): boolean =>
  Math.min(b, Math.max(c, d)) - Math.max(a, Math.min(c, d)) > TOUCH;

/**
 * The fields to change when an edge of a rectangular zone moves: its own two corners, and those of
 * zones that share the edge, so that neighbours neither part nor overlap.
 */
export function edgeFields(zones: readonly Zone[], index: number, side: Side): string[] {
  const zone = zones[index];
  const edges = zone ? rectangleOf(zone) : null;
  if (!edges) return [];
  const axis = side === "rear" || side === "front" ? 0 : 1;
  const old = edges[side];
  const [from, to] = axis === 0 ? [edges.right, edges.left] : [edges.rear, edges.front];
  const fields: string[] = [];
  zones.forEach((other) => {
    const corners = other.outline_mm;
    corners.forEach((corner, at) => {
      if (!same(corner[axis], old)) return;
      const touches = [corners[(at + 1) % corners.length], corners.at(at - 1)].some(
        (next) =>
          next !== undefined &&
          same(next[axis], old) &&
          overlap(from, to, corner[1 - axis] ?? 0, next[1 - axis] ?? 0),
      );
      if (touches) fields.push(`pan.zones.${other.id}.outline_mm.${at}.${axis}`);
    });
  });
  return fields;
}

/** The fields of a corner: its own and those of zones that have a corner in the same place. */
export function cornerFields(
  zones: readonly Zone[],
  index: number,
  at: number,
  axis: 0 | 1,
): string[] {
  const corner = zones[index]?.outline_mm[at];
  if (!corner) return [];
  return zones.flatMap((zone) =>
    zone.outline_mm.flatMap((other, place) =>
      same(other[0], corner[0]) && same(other[1], corner[1])
        ? [`pan.zones.${zone.id}.outline_mm.${place}.${axis}`]
        : [],
    ),
  );
}

function freeName(zones: readonly Zone[], word: string): string {
  const taken = new Set(zones.map((zone) => zone.name));
  let number = zones.length + 1;
  while (taken.has(`${word} ${number}`)) number += 1;
  return `${word} ${number}`;
}

const depthOf = ({ floor }: Zone): number => depthsOf(floor).least;

/** A kick-out on the right of the deepest rectangular zone, closed above, to be given its size. */
export function newSideBox(zones: readonly Zone[]): Zone | null {
  const deepest = [...zones]
    .filter((zone) => zone.ceiling_depth_mm == null && rectangleOf(zone) !== null)
    .sort((one, other) => depthOf(other) - depthOf(one))[0];
  const edges = deepest ? rectangleOf(deepest) : null;
  if (!deepest || !edges) return null;
  const depth = depthOf(deepest);
  const [rear, front] = [edges.rear + 20, edges.front - 20];
  return {
    id: NOT_GIVEN,
    name: freeName(zones, "kick-out"),
    outline_mm: [
      [rear, edges.right - 50],
      [front, edges.right - 50],
      [front, edges.right],
      [rear, edges.right],
    ],
    floor: { kind: "flat", depth_mm: depth },
    ceiling_depth_mm: Math.round(depth / 2),
    draft_deg: 0,
  };
}

/** A new zone ahead of the foremost one, to be given its real size. */
export function newZone(zones: readonly Zone[]): Zone {
  const corners = zones.flatMap((zone) => (zone.ceiling_depth_mm == null ? zone.outline_mm : []));
  const front = Math.max(...corners.map((corner) => corner[0]));
  const foremost = zones.find(
    (zone) => zone.ceiling_depth_mm == null && zone.outline_mm.some(([x]) => same(x, front)),
  );
  const ys = (foremost?.outline_mm ?? []).filter(([x]) => same(x, front)).map(([, y]) => y);
  const [right, left] = [Math.min(...ys), Math.max(...ys)];
  return {
    id: NOT_GIVEN,
    name: freeName(zones, "zone"),
    outline_mm: [
      [front, right],
      [front + 60, right],
      [front + 60, left],
      [front, left],
    ],
    floor: { kind: "flat", depth_mm: 60 },
    ceiling_depth_mm: null,
    draft_deg: 0,
  };
}
