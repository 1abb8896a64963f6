import { boxOf, clipRing, isWithin, type Point } from "../drawing/geometry";
import { gateKey, swingOf, type MovingFrame } from "../drawing/movingOil";
import { sectionHalf, type Drawing, type OilSurface } from "../drawing/views";
import {
  areaNormal,
  clipPolygon,
  crossings,
  dot,
  minus,
  sliceTetrahedron,
  type Cut,
  type Polygon,
  type Vector,
} from "./solid";

export type CutWay = "along" | "across" | "none";

/** What the scene is made of: flat pieces and lines by look. */
export interface Pieces {
  metal: Polygon[];
  /** Plates, each piece with its openings as further rings. */
  plates: Polygon[][];
  oilSides: Polygon[];
  oilSurface: Polygon[];
  oilCut: Polygon[];
  metalCut: Polygon[][];
  edges: [Vector, Vector][];
  /** Plates where the cut goes through them. */
  plateCuts: [Vector, Vector][];
  removed: [Vector, Vector][];
  oilEdges: [Vector, Vector][];
  heights: { z: number; lines: [Vector, Vector][] }[];
}

const toCut = (oil: OilSurface): Cut => ({ normal: oil.normal, level: oil.level_mm });

/** The oil's skin: faces of the pan that it wets, and its surface. */
export function oilShell(
  drawing: Drawing,
  oil: OilSurface,
): { wet: Vector[][]; surface: Vector[][] } {
  const cut = toCut(oil);
  const { vertices_mm: vertices, tetrahedra } = drawing.solid;
  const corners = (rows: readonly number[]): Vector[] =>
    rows.map((row) => vertices[row] ?? [0, 0, 0]);
  return {
    wet: drawing.faces.map((face) => clipPolygon(face.corners_mm, cut)).filter((p) => p.length > 0),
    surface: tetrahedra
      .map((rows) => sliceTetrahedron(corners(rows), cut))
      .filter((p) => p.length > 0),
  };
}

/**
 * Litres inside the oil's skin as drawn, by the divergence theorem: a check of the picture, not a
 * figure of the forecast. Oil that stands at the open top of the skirt is counted up to it.
 */
export function litresDrawn(drawing: Drawing, oil: OilSurface): number {
  const { wet, surface } = oilShell(drawing, oil);
  // measured from a point on the surface, so that the surface itself adds nothing
  const origin = surface[0]?.[0] ?? ([0, 0, 0] as const);
  const lid = drawing.rail_mm.map(([x, y]): Vector => [x, y, drawing.skirt_height_mm]);
  const top = clipPolygon([...lid].reverse(), toCut(oil));
  const sixfold = [...wet, top].reduce((sum, polygon) => {
    const first = polygon[0];
    // normals point into the space: the volume is minus their flux
    return first ? sum - dot(minus(first, origin), areaNormal(polygon)) : sum;
  }, 0);
  return sixfold / 6 / 1e6;
}

function sides(polygon: Polygon): [Vector, Vector][] {
  return polygon.map((point, i) => [point, polygon[(i + 1) % polygon.length] ?? point]);
}

export const same = (a: Vector, b: Vector): boolean => Math.hypot(...minus(a, b)) < 0.05;

/** Of a scan's many small pieces, the edges where two part by more than about 25 degrees. */
function roughEdges(polygons: readonly Polygon[]): [Vector, Vector][] {
  const found = new Map<string, { edge: [Vector, Vector]; normal: Vector; flat: boolean }>();
  const near = (point: Vector): string => point.map((each) => Math.round(each / 2)).join();
  for (const polygon of polygons) {
    const raw = areaNormal(polygon);
    const size = Math.hypot(...raw) || 1;
    const normal: Vector = [raw[0] / size, raw[1] / size, raw[2] / size];
    for (const edge of sides(polygon)) {
      const ends = [near(edge[0]), near(edge[1])].sort().join(" ");
      const twin = found.get(ends);
      if (!twin) found.set(ends, { edge, normal, flat: false });
      else if (dot(twin.normal, normal) > 0.9) twin.flat = true;
    }
  }
  return [...found.values()].filter((one) => !one.flat).map((one) => one.edge);
}

const MANY = 200; // pieces: a drawn pan has some dozens, a scanned one hundreds

/** Edges that only one polygon has, or that two at an angle share: those within a plane are no edges. */
function drawnEdges(polygons: readonly Polygon[]): [Vector, Vector][] {
  if (polygons.length > MANY) return roughEdges(polygons);
  const found: { edge: [Vector, Vector]; normal: Vector; flat: boolean }[] = [];
  for (const polygon of polygons) {
    const raw = areaNormal(polygon);
    const size = Math.hypot(...raw) || 1;
    const normal: Vector = [raw[0] / size, raw[1] / size, raw[2] / size];
    for (const edge of sides(polygon)) {
      const twin = found.find((one) => same(one.edge[0], edge[1]) && same(one.edge[1], edge[0]));
      if (!twin) found.push({ edge, normal, flat: false });
      else if (dot(twin.normal, normal) > 0.9999) twin.flat = true;
    }
  }
  return found.filter((one) => !one.flat).map((one) => one.edge);
}

/** The cut through the mouth that leaves away the half toward the viewer. */
export function cutPlane(drawing: Drawing, way: CutWay, toViewer: Vector): Cut | null {
  if (way === "none") return null;
  const axis = way === "along" ? 1 : 0;
  const at = way === "along" ? drawing.side.at_mm : drawing.front.at_mm;
  const sign = toViewer[axis] >= 0 ? 1 : -1;
  const normal: Vector = axis === 1 ? [0, sign, 0] : [sign, 0, 0];
  return { normal, level: sign * at };
}

/** From a section's own coordinates to the engine's frame. */
const inSpace =
  (way: "along" | "across", at: number) =>
  ([u, v]: Point): Vector =>
    way === "along" ? [u, at, v] : [at, u, v];

/** The oil's surface with the viewer's half left away. */
export function cutSurface(
  drawing: Drawing,
  oil: OilSurface,
  way: CutWay,
  toViewer: Vector,
): Vector[][] {
  const cut = cutPlane(drawing, way, toViewer);
  const { surface } = oilShell(drawing, oil);
  return cut ? surface.map((polygon) => clipPolygon(polygon, cut)) : surface;
}

/** All that the scene shows, as seen from `toViewer`: walls toward the viewer are left away. */
export function piecesOf(drawing: Drawing, oil: OilSurface, way: CutWay, toViewer: Vector): Pieces {
  const cut = cutPlane(drawing, way, toViewer);
  const keep = (polygons: readonly Polygon[]): Vector[][] =>
    polygons
      .map((polygon) => (cut ? clipPolygon(polygon, cut) : [...polygon]))
      .filter((polygon) => polygon.length > 0);
  const isFar = (polygon: Polygon): boolean => dot(areaNormal(polygon), toViewer) > 0;
  const below = drawing.faces
    .filter((face) => face.kind !== "skirt")
    .map((face) => face.corners_mm);
  const skirt = drawing.faces
    .filter((face) => face.kind === "skirt")
    .map((face) => face.corners_mm);
  const shell = oilShell(drawing, oil);
  const surface = keep(shell.surface);
  const walls = keep(below);
  const far = walls.filter(isFar);
  const wet = keep(shell.wet);
  const section = way === "across" ? drawing.front : drawing.side;
  const place = way === "none" ? null : inSpace(way, section.at_mm);
  const half = sectionHalf(oil, way === "across" ? "front" : "side", section.at_mm);
  const oilCut = place
    ? [...section.inside_mm, ...section.skirt_mm]
        .map((ring) => clipRing(ring, half).map(place))
        .filter((ring) => ring.length > 2)
    : [];
  const metalCut = place
    ? section.metal_mm.map((rings) => rings.map((ring) => ring.map((point) => place(point))))
    : [];
  const ringsKept = (rings: readonly Polygon[]): Vector[][] => (rings[0] ? keep(rings) : []);
  const plates = drawing.plates
    .flatMap((plate) => plate.pieces_mm.map(ringsKept))
    .filter((rings) => rings.length > 0);
  const plateCuts = place
    ? [
        ...section.plates_mm,
        ...section.gates.map((gate) => [gate.hinge_mm, gate.edge_mm] as const),
      ].map(([from, to]): [Vector, Vector] => [place(from), place(to)])
    : [];
  return {
    metal: far,
    plateCuts,
    plates,
    oilSides: wet.filter((polygon) => !isFar(polygon)),
    oilSurface: surface,
    oilCut,
    metalCut,
    edges: [...drawnEdges(far), ...metalCut.flat().flatMap(sides), ...plates.flat().flatMap(sides)],
    removed: [...drawnEdges(below.filter((polygon) => !isFar(polygon))), ...skirt.flatMap(sides)],
    oilEdges: [
      ...wet.flatMap((polygon) =>
        crossings(polygon, { normal: oil.normal, level: oil.level_mm - 0.01 }),
      ),
      ...drawnEdges(wet.filter((polygon) => !isFar(polygon))),
      ...oilCut.flatMap(sides),
    ],
    heights: heightLines(drawing, surface),
  };
}

/** The leaves of all gates as they stand, with their edges. */
export function gatesOf(
  drawing: Drawing,
  way: CutWay,
  toViewer: Vector,
  moving: MovingFrame | null,
): { leaves: Polygon[]; edges: [Vector, Vector][] } {
  const cut = cutPlane(drawing, way, toViewer);
  const leaves = drawing.plates
    .flatMap((plate) =>
      plate.gates.map((gate) =>
        swung(gate, swingOf(moving, gateKey(plate.name, gate.name), SHOWN_SWING)),
      ),
    )
    .map((leaf) => (cut ? clipPolygon(leaf, cut) : leaf))
    .filter((leaf) => leaf.length > 0);
  return { leaves, edges: leaves.flatMap(sides) };
}

/** How high the floor is at a place [mm], from the zones; below everything where there is none. */
export function floorOf(drawing: Drawing): (x: number, y: number) => number {
  const zones = drawing.zones.map((zone) => ({ ...zone, box: boxOf(zone.outline_mm) }));
  const rim = 0.01; // [mm] a place on an edge counts as within
  return (x, y) => {
    let lowest = Infinity;
    for (const { box, outline_mm: outline, floor } of zones) {
      if (x < box.left - rim || x > box.right + rim || y < box.top - rim || y > box.bottom + rim)
        continue;
      const height = floor[0] + floor[1] * x + floor[2] * y;
      if (height < lowest && isWithin(outline, x, y, rim)) lowest = height;
    }
    return lowest === Infinity ? -Infinity : lowest;
  };
}

/** In settled oil a leaf is drawn a little open, so that one sees which way it goes. */
const SHOWN_SWING = (28 * Math.PI) / 180;

/** A gate's leaf, swung so far about its hinge. */
function swung(gate: Drawing["plates"][number]["gates"][number], angle: number): Vector[] {
  const [one, other, below, beside] = gate.corners_mm;
  if (!one || !other || !below || !beside) return [];
  const out = (hinge: Vector, edge: Vector): Vector => {
    const down = minus(edge, hinge);
    const long = Math.hypot(...down);
    return [0, 1, 2].map(
      (k) =>
        (hinge[k] ?? 0) +
        (down[k] ?? 0) * Math.cos(angle) +
        (gate.opens[k] ?? 0) * long * Math.sin(angle),
    ) as unknown as Vector;
  };
  return [one, other, out(other, below), out(one, beside)];
}

/** Lines of equal height on the surface, every 50 mm from the rail. */
export function heightLines(
  drawing: Drawing,
  surface: readonly Polygon[],
): { z: number; lines: [Vector, Vector][] }[] {
  const lowest = Math.min(...drawing.solid.vertices_mm.map((point) => point[2]));
  const found: { z: number; lines: [Vector, Vector][] }[] = [];
  for (let z = Math.ceil(lowest / 50) * 50; z <= drawing.skirt_height_mm; z += 50) {
    const lines = surface.flatMap((polygon) =>
      crossings(polygon, { normal: [0, 0, 1], level: z + 0.003 }),
    );
    if (lines.length > 0) found.push({ z, lines });
  }
  return found;
}
