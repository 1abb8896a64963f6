import type { Dry } from "../../api/dry";
import type { Glass } from "../../drawing/GlassPipe";
import type { Point, Ring } from "../../drawing/geometry";

/** Where each part of a dry sump is drawn: from the pan through the stages to the tank. */

export const SIZE = { width: 760, height: 372 } as const;
export const PIPE = 14; // [px] that a line is wide
export const JOINED = 20; // [px] of the line that carries what all stages bring
const PAN = { x: 24, y: 50, width: 226, height: 176 } as const;
export const SHAFT = 426; // x of the pump's shaft, and of every stage's middle
export const STAGE = 25; // [px] from a stage's middle to either end
export const JOIN = 540; // x at which what the stages bring comes together
const TOP = 64; // y of the way to the tank
export const TANK = { x: 668, y: 122, width: 80, height: 188 } as const;
const FEED = 340; // y of the line from the tank
const LANE = 18; // between two lines that go side by side
const NEAR = 22; // [px] within which a mouth stands in the way of a line
const SMALL = 34; // [px] of a step that a line takes on the slant

/** A stage on the shaft: by its place in the document. */
export interface StageRow {
  stage: number;
  y: number;
}

export interface FlowPlan {
  outline: Ring;
  toPage: (at: Point) => Point;
  /** The pan's lower edge on the page. */
  below: number;
  /** The lowest of the pan and of the lines that go round under it. */
  lowest: number;
  mouths: { mouth: number; stage: number; at: Point }[];
  rows: StageRow[];
  /** From each mouth to its stage. */
  suctions: (Glass & { stage: number })[];
  /** From each stage to where all come together. */
  outlets: (Glass & { stage: number })[];
  joined: Glass;
  /** Separator and cooler in the order in which oil goes through them, and the lines behind them. */
  way: { kind: "separator" | "cooler"; x: number; y: number }[];
  behind: Glass[];
  pressureY: number;
  feed: Glass;
  gallery: Glass;
}

const pipe = (key: string, line: Point[], width = PIPE): Glass => ({
  key,
  line,
  width,
  airOn: "left",
});

/** The pan from above, the nose to the left, so that the engine's right is above. */
function panOnPage(dry: Dry): Pick<FlowPlan, "outline" | "toPage" | "below"> {
  const xs = dry.outline_mm.map(([x]) => x);
  const ys = dry.outline_mm.map(([, y]) => y);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(PAN.width / (x1 - x0), PAN.height / (y1 - y0));
  const toPage = ([x, y]: Point): Point => [PAN.x + (x1 - x) * scale, PAN.y + (y - y0) * scale];
  return { outline: dry.outline_mm.map(toPage), toPage, below: PAN.y + (y1 - y0) * scale };
}

/** A mouth's way out of the pan: straight to the rear, or round where another stands behind it. */
interface WayOut {
  mouth: number;
  stage: number;
  at: Point;
  line: Point[];
  y: number;
}

function waysOut(dry: Dry, pan: Pick<FlowPlan, "toPage" | "below">): WayOut[] {
  const places = dry.mouths.map(({ x_mm, y_mm }): Point => pan.toPage([x_mm, y_mm]));
  let [above, under] = [0, 0];
  return places.flatMap((at, mouth) => {
    const stage = dry.stages.findIndex(({ mouths }) => mouths.includes(mouth));
    if (stage < 0) return [];
    const isBlocked = places.some(
      (other) => other[0] > at[0] + 1 && Math.abs(other[1] - at[1]) < NEAR,
    );
    if (!isBlocked) return [{ mouth, stage, at, line: [at], y: at[1] }];
    const isUp = at[1] < (PAN.y + pan.below) / 2;
    const y = isUp ? PAN.y - 12 - LANE * above++ : pan.below + 12 + LANE * under++;
    return [{ mouth, stage, at, line: [at, [at[0], y]], y }];
  });
}

/** Stages from above in the order in which the lines leave the pan, so that none cross. */
function rowsOf(dry: Dry, ways: readonly WayOut[], last: number): StageRow[] {
  const leaves = dry.stages.map((_, stage) => {
    const mine = ways.filter((way) => way.stage === stage);
    return mine.length ? mine.reduce((sum, { y }) => sum + y, 0) / mine.length : Infinity;
  });
  const order = [...dry.stages.keys()].sort(
    (one, other) => (leaves[one] ?? 0) - (leaves[other] ?? 0) || one - other,
  );
  const step = (last - TOP) / Math.max(1, dry.stages.length);
  return order.map((stage, at) => ({ stage, y: TOP + 14 + at * step }));
}

/**
 * Each way out led to its stage: of those that go down the upper turns last, of those that go up
 * the lower, so that none cross.
 */
function suctionsOf(ways: readonly WayOut[], rows: readonly StageRow[]): FlowPlan["suctions"] {
  const sorted = [...ways].sort((one, other) => one.y - other.y);
  const to = (way: WayOut): number => rows.find(({ stage }) => stage === way.stage)?.y ?? way.y;
  const down = sorted.filter((way) => to(way) >= way.y);
  const up = sorted.filter((way) => to(way) < way.y);
  const laneOf = (way: WayOut): number =>
    to(way) >= way.y ? down.length - 1 - down.indexOf(way) : up.indexOf(way);
  return sorted.map((way) => {
    const x = PAN.x + PAN.width + 22 + LANE * laneOf(way);
    const y = to(way);
    const step: Point[] =
      Math.abs(y - way.y) < SMALL
        ? [
            [x - 34, way.y],
            [x, y],
          ]
        : [
            [x, way.y],
            [x, y],
          ];
    return {
      ...pipe(`suction-${way.mouth}`, [...way.line, ...step, [SHAFT - STAGE, y]]),
      stage: way.stage,
    };
  });
}

/** What all stages bring, through separator and cooler in their order, into the tank. */
function wayBack(dry: Dry, lowest: number): Pick<FlowPlan, "joined" | "way" | "behind"> {
  const order = dry.carried?.order ?? (dry.tank.has_separator ? "ahead" : "none");
  const kinds: FlowPlan["way"][number]["kind"][] = [
    ...(order === "ahead" || order === "alone" ? (["separator"] as const) : []),
    ...(dry.tank.has_cooler ? (["cooler"] as const) : []),
    ...(order === "after" ? (["separator"] as const) : []),
  ];
  const into = TANK.x + 22;
  const ends: Point[] = [
    [into, TOP],
    [into, TANK.y + 16],
  ];
  const step = (into - JOIN) / (kinds.length + 1);
  const way = kinds.map((kind, at) => ({ kind, x: JOIN + (at + 1) * step, y: TOP }));
  const [first] = way;
  const up: Point[] = [
    [JOIN, lowest],
    [JOIN, TOP],
  ];
  const behind = way.map(({ x, kind }, at) => {
    const next = way[at + 1];
    return pipe(`behind-${kind}`, [[x, TOP], ...(next ? [[next.x, TOP] as const] : ends)]);
  });
  return {
    joined: pipe("joined", [...up, ...(first ? [[first.x, TOP] as const] : ends)], JOINED),
    way,
    behind,
  };
}

export function flowPlan(dry: Dry): FlowPlan {
  const pan = panOnPage(dry);
  const ways = waysOut(dry, pan);
  const pressureY = SIZE.height - 76;
  const rows = rowsOf(dry, ways, pressureY - 24);
  const outlets = rows.map(({ stage, y }) => ({
    ...pipe(`outlet-${stage}`, [
      [SHAFT + STAGE, y],
      [JOIN, y],
    ]),
    stage,
  }));
  const lowest = Math.max(TOP, ...rows.map(({ y }) => y)) + PIPE / 2;
  const outlet = TANK.x + TANK.width / 2;
  return {
    ...pan,
    lowest: Math.max(pan.below, ...ways.map(({ y }) => y)),
    mouths: ways.map(({ mouth, stage, at }) => ({ mouth, stage, at })),
    rows,
    suctions: suctionsOf(ways, rows),
    outlets,
    ...wayBack(dry, lowest),
    pressureY,
    feed: pipe("feed", [
      [outlet, TANK.y + TANK.height],
      [outlet, FEED],
      [JOIN, FEED],
      [JOIN, pressureY],
      [SHAFT + STAGE, pressureY],
    ]),
    gallery: pipe("gallery", [
      [SHAFT - STAGE, pressureY],
      [PAN.x + PAN.width + 24, pressureY],
    ]),
  };
}
