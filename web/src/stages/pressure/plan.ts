import type { PressureStage } from "../../api/pressure";
import type { Component, Kind } from "../../document/circuit/circuit";
import type { Glass } from "../../drawing/GlassPipe";
import type { Point } from "../../drawing/geometry";
import { viewBox, toPage, type Drawing, type Placed } from "../../drawing/views";
import { dryPlan, type DryPlan } from "./dryPlan";

/** Where each part of a circuit is drawn: once, in the order in which oil goes through it. */

type Layout = PressureStage["layout"];

export const PIPE = 15; // [px] that a glass pipe is wide

/** A glass pipe: what it carries is that of a node. */
export interface Pipe extends Glass {
  node: number;
}

/** A component at its place: its pressure is told of the node behind it. */
export interface PartAt {
  id: string;
  kind: Kind;
  name: string;
  x: number;
  y: number;
  node: number;
  /** Of its usual size: smaller where there are too many for the row. */
  scale: number;
}

interface BoxAt {
  id: string;
  name: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

export type BottleAt = BoxAt;

/** A head or a turbo: where it is fed, and where its oil leaves it. */
export interface ConsumerAt extends BoxAt {
  kind: "head" | "turbo";
}

export interface Plan {
  width: number;
  height: number;
  pipes: Pipe[];
  parts: PartAt[];
  bottles: BottleAt[];
  pump: Point;
  relief: { id: string; name: string; at: Point } | null;
  gallery: { from: Point; to: Point };
  bearings: readonly Point[];
  jets: { id: string; name: string; at: readonly Point[] }[];
  consumers: ConsumerAt[];
  /** Where the gallery's words begin [px]. */
  galleryWords: Point;
  /** Of oil on its way down. */
  back: readonly Point[];
  section: Placed & { view: "front" };
  /** Drawn in the section's place, where the pump draws from a tank. */
  dry: DryPlan | null;
}

/** How much room the kinds take in the row [px]; what is not told takes little. */
const ROOM: Partial<Record<Kind, number>> = {
  filter: 46,
  remote_filter: 66,
  cooler: 88,
  plate_cooler: 72,
  thermostat: 40,
  sandwich_plate: 40,
  regulator: 34,
};
const LITTLE = 28;
const LEAST_GAP = 7; // [px] of pipe that is seen between two

export const roomOf = (kind: Kind): number => ROOM[kind] ?? LITTLE;

/** Half of what a symbol covers of its line [px], where that is less than its room. */
const COVERS: Partial<Record<Kind, number>> = {
  tee: 0,
  sender_tee: 0,
  cover: 0,
  take_off_plate: 7,
  bulkhead: 7,
  restrictor: 9,
  shut_off_valve: 10,
  regulator: 10,
  thermostat: 17,
  sandwich_plate: 17,
};
const covers = (kind: Kind): number => COVERS[kind] ?? roomOf(kind) / 2;

const RISER = 92;
const LANE = 36; // where a bottle and its line are
const LANES_APART = 74;
const BOTTLE = { width: 190, height: 48 };
const HEAD = { width: 56, height: 34 };

/** The sheet's main lines [px]: how high the row and the gallery are, where the row comes down. */
interface Lines {
  row: number;
  gallery: number;
  drop: number;
  right: number;
}

interface Names {
  name: (id: string) => string;
  kind: (id: string) => Kind;
}

const namesOf = (components: readonly Component[]): Names => {
  const of = new Map(components.map((part) => [part.id, part]));
  return {
    name: (id) => of.get(id)?.name ?? "",
    kind: (id) => of.get(id)?.kind ?? "tee",
  };
};

/** What stands in the row; the relief stands beside the pump. */
const inRow = (layout: Layout, { kind }: Names): Layout["line"] =>
  layout.line.filter(({ component }) => kind(component) !== "relief");

const endOf = (branch: Layout["branches"][number]): string => branch.parts.at(-1)?.component ?? "";

function linesOf(layout: Layout, names: Names, width: number): Lines {
  const lanes = layout.branches.filter((each) => names.kind(endOf(each)) === "accumulator").length;
  const wide = inRow(layout, names).reduce(
    (sum, { component }) => sum + roomOf(names.kind(component)) + 18,
    0,
  );
  const row = lanes > 0 ? LANE + 34 + lanes * 46 : 62;
  const least = RISER + 56 + wide;
  return {
    row,
    gallery: row + 112,
    drop: Math.min(Math.max(width * 0.5, least), width - 250),
    right: width - 16,
  };
}

/** The parts along the row, from the riser to where the line comes down to the gallery. */
function alongRow(layout: Layout, names: Names, { row, drop }: Lines): PartAt[] {
  const shown = inRow(layout, names);
  const wide = shown.reduce((sum, { component }) => sum + roomOf(names.kind(component)), 0);
  const from = RISER + 26;
  const free = drop - 16 - from;
  const scale = Math.min(1, (free - LEAST_GAP * (shown.length + 1)) / Math.max(wide, 1));
  const gap = (free - wide * scale) / (shown.length + 1);
  let x = from;
  return shown.map(({ component: id, leaves }) => {
    const kind = names.kind(id);
    const room = roomOf(kind) * scale;
    const at = x + gap + room / 2;
    x += gap + room;
    return { id, kind, name: names.name(id), x: at, y: row, node: leaves, scale };
  });
}

/** The line from the pump to the gallery and along it, in pieces, each of what is in it there. */
function mainPipes(layout: Layout, parts: readonly PartAt[], pump: Point, at: Lines): Pipe[] {
  const { row, drop, gallery } = at;
  const pipes: Pipe[] = [];
  const add = (key: string, line: readonly Point[], node: number): void => {
    pipes.push({ key, line, node, width: PIPE, airOn: "left" });
  };
  let begin: Point[] = [
    [RISER, pump[1] - 24],
    [RISER, row],
  ];
  let node = layout.outlet;
  for (const part of parts) {
    const half = covers(part.kind) * part.scale;
    add(`to ${part.id}`, [...begin, [part.x - half, row]], node);
    begin = [[part.x + half, row]];
    node = part.node;
  }
  add("to the gallery", [...begin, [drop, row], [drop, gallery - PIPE / 2 + 1]], node);
  add(
    "gallery",
    [
      [drop - PIPE / 2, gallery],
      [at.right - 74, gallery],
    ],
    layout.gallery,
  );
  return pipes;
}

/** A bottle at the end of its line, with what is in that, above the row. */
function bottleBranch(
  branch: Layout["branches"][number],
  { name, kind }: Names,
  root: Point,
  right: number,
  lane: number,
): { pipes: Pipe[]; parts: PartAt[]; bottle: BottleAt } {
  const id = endOf(branch);
  const between = branch.parts.slice(0, -1);
  const x = right - BOTTLE.width;
  const begin = Math.max(root[0], x - 150);
  const gap = (x - begin) / (between.length + 1);
  const parts = between.map(({ component, leaves }, index) => ({
    id: component,
    kind: kind(component),
    name: name(component),
    x: begin + gap * (index + 1),
    y: lane,
    node: leaves,
    scale: 1,
  }));
  const nodes = [branch.parts[0]?.enters ?? 0, ...between.map(({ leaves }) => leaves)];
  const stops: Point[] = [...parts.map((part): Point => [part.x, lane]), [x, lane]];
  const pipes = stops.map((to, index): Pipe => {
    const from = parts[index - 1];
    const start: Point[] = from ? [[from.x, lane]] : [root, [root[0], lane]];
    const node = nodes[index] ?? 0;
    return { key: `${id} ${index}`, line: [...start, to], node, width: 11, airOn: "left" };
  });
  const y = lane - BOTTLE.height / 2;
  return { pipes, parts, bottle: { id, name: name(id), x, y, ...BOTTLE } };
}

/** Heads and turbos at the gallery's end, from the right. */
function consumersOf(layout: Layout, names: Names, { right, gallery }: Lines): ConsumerAt[] {
  const ends = layout.branches
    .map(endOf)
    .filter((id) => ["head", "turbo"].includes(names.kind(id)));
  return ends.map((id, index) => ({
    id,
    kind: names.kind(id) as "head" | "turbo",
    name: names.name(id),
    x: right - HEAD.width - index * (HEAD.width + 22),
    y: gallery - 72,
    ...HEAD,
  }));
}

/** The front section at the mouth, in the room between the pump and the gallery's bearings. */
function sectionAt(
  drawing: Drawing,
  room: { left: number; right: number; top: number; bottom: number },
) {
  const box = viewBox(drawing, "front");
  const scale = Math.min(
    (room.right - room.left) / (box.right - box.left),
    (room.bottom - room.top) / (box.bottom - box.top),
  );
  return {
    view: "front" as const,
    box,
    scale,
    x: room.left - box.left * scale,
    y: room.bottom - box.bottom * scale,
  };
}

function reliefBeside(layout: Layout, names: Names, pump: Point): Plan["relief"] {
  const found = layout.line.find(({ component }) => names.kind(component) === "relief");
  if (!found) return null;
  const { component: id } = found;
  return { id, name: names.name(id), at: [RISER + 46, pump[1] - 50] };
}

const GALLERY_WORDS = 160; // [px] that they take at most

/** Over the gallery, or under its bearings where what it feeds stands too near for words. */
function galleryWordsAt([left, gallery]: Point, to: number, bottom: number): Point {
  const isCrowded = to - left < GALLERY_WORDS && gallery + 156 < bottom;
  return [left, gallery + (isCrowded ? 132 : -34)];
}

/** A place of the front section on the sheet. */
const onSheet = (drawing: Drawing, at: Placed, point: Point): Point => {
  const [u, v] = toPage.front(drawing, point);
  return [at.x + u * at.scale, at.y + v * at.scale];
};

/** From the mouth's tube in the section to the pump. */
function pickupTube(layout: Layout, drawing: Drawing, at: Placed, pump: Point): Pipe {
  const top = Math.max(drawing.skirt_height_mm * 0.5, 30);
  const [x, y] = onSheet(drawing, at, [drawing.mouth.y_mm, top]);
  const low = Math.max(y - 18, pump[1] + 38);
  const line: Point[] = [
    [x, y + 2],
    [x, y - 18],
    [x - 34, low],
    [RISER, low],
    [RISER, pump[1] + 24],
  ];
  return { key: "pickup tube", line, node: layout.inlet, width: PIPE, airOn: "right" };
}

/** All bottles with their lines. */
function bottlesOf(layout: Layout, names: Names, row: readonly PartAt[], at: Lines) {
  return layout.branches
    .filter((each) => names.kind(endOf(each)) === "accumulator")
    .map((branch, index) => {
      const tee = row.find(({ id }) => id === branch.root);
      const root: Point = tee
        ? [tee.x, at.row]
        : [Math.min(at.drop + 30, at.right - 250), at.gallery];
      const lane = LANE + index * LANES_APART;
      return { ...bottleBranch(branch, names, root, at.right, lane), isTapped: !tee };
    });
}

/** Bearings under the gallery and jets on it. */
function feedsOf(layout: Layout, names: Names, { drop, gallery, right }: Lines) {
  const along = (share: number, y: number): Point => [drop + share * (right - 74 - drop), y];
  return {
    bearings: [0.1, 0.29, 0.48, 0.67, 0.86].map((share) => along(share, gallery + 44)),
    jets: layout.branches
      .map(endOf)
      .filter((id) => names.kind(id) === "jets")
      .map((id) => ({
        id,
        name: names.name(id),
        at: [0.18, 0.38, 0.58, 0.77].map((share) => along(share, gallery)),
      })),
  };
}

/** The whole drawing for a circuit of any size, on a sheet at least 640 px wide. */
export function planOf(
  layout: Layout,
  components: readonly Component[],
  drawing: Drawing,
  width: number,
  height: number,
): Plan {
  const names = namesOf(components);
  const lines = linesOf(layout, names, width);
  const { drop, gallery, right } = lines;
  const pump: Point = [RISER, Math.max(gallery + 40, height - 150)];
  const row = alongRow(layout, names, lines);
  const bottles = bottlesOf(layout, names, row, lines);
  const to: Point = [right - 74, gallery];
  const consumers = consumersOf(layout, names, lines);
  const room = { left: RISER + 108, right: drop - 10, top: lines.row + 74, bottom: height - 44 };
  const section = sectionAt(drawing, room);
  const at = { ...lines, left: RISER + 124, bottom: room.bottom - 6 };
  const hasTank = components.some(({ kind }) => kind === "tank");
  const dry = hasTank ? dryPlan(layout, at, pump, PIPE) : null;
  const from = consumers.at(0);
  const down = (from?.x ?? to[0]) + 42;
  return {
    width,
    height,
    pipes: [
      ...(dry ? [] : [pickupTube(layout, drawing, section, pump)]),
      ...bottles.flatMap(({ pipes }) => pipes),
      ...mainPipes(layout, row, pump, lines),
      ...consumers.map((each): Pipe => {
        const line: Point[] = [to, [each.x + 12, gallery], [each.x + 12, each.y + each.height]];
        return { key: `to ${each.id}`, line, node: layout.gallery, width: 9, airOn: "left" };
      }),
    ],
    parts: [...row, ...bottles.flatMap(({ parts }) => parts)],
    bottles: bottles.map(({ bottle }) => bottle),
    pump,
    relief: reliefBeside(layout, names, pump),
    gallery: { from: [drop, gallery], to },
    galleryWords: galleryWordsAt(
      [drop + (bottles.some(({ isTapped }) => isTapped) ? 46 : 16), gallery],
      Math.min(right, ...consumers.map(({ x }) => x)),
      dry ? gallery : height - 76,
    ),
    ...feedsOf(layout, names, lines),
    consumers,
    back: [
      [down, from ? from.y + from.height : gallery + 60],
      [down, height - 76],
      dry
        ? [dry.pan.x + dry.pan.width - 8, dry.pan.y]
        : [section.x + section.box.right * section.scale + 8, height - 58],
    ],
    section,
    dry,
  };
}
