import type { Line, Lines } from "../../api/lines";
import type { Point } from "../../drawing/geometry";

/** A place in the car's frame [mm]: ahead, left, up. */
export type Spot = readonly [number, number, number];
export type View = "plan" | "side";

export interface Span {
  from: number;
  to: number;
}

/** Where both views lie on the page, to one scale: the nose to the left, the plan over the side. */
export interface Frame {
  width: number;
  height: number;
  scale: number;
  ahead: Span;
  left: Span;
  up: Span;
  /** Tops of the views [px]. */
  planTop: number;
  sideTop: number;
}

const MARGIN = { x: 34, top: 26, between: 44, bottom: 34 } as const;
const LEAST = 120; // [mm] of a span: nothing is drawn larger than life

function spanOf(values: readonly number[], spare: number): Span {
  const [from, to] = [Math.min(...values) - spare, Math.max(...values) + spare];
  const more = Math.max(0, LEAST - (to - from)) / 2;
  return { from: from - more, to: to + more };
}

/** All places that both views have room for. */
export function placesOf(lines: Lines): Spot[] {
  const flat = (plan: readonly (readonly number[])[], side: readonly (readonly number[])[]) => {
    const found: Spot[] = [];
    plan.forEach(([x = 0, y = 0]) => found.push([x, y, side[0]?.[1] ?? 0]));
    side.forEach(([x = 0, z = 0]) => found.push([x, plan[0]?.[1] ?? 0, z]));
    return found;
  };
  return [
    ...flat(lines.pan_plan_mm, lines.pan_side_mm),
    ...lines.around.flatMap(({ plan_mm, side_mm }) => flat(plan_mm, side_mm)),
    ...lines.components.map(({ at_mm }) => at_mm),
    ...lines.lines.flatMap(({ drawn_mm, ends }) => [
      ...drawn_mm,
      ...ends.flatMap(({ place_mm }) => (place_mm ? [place_mm] : [])),
    ]),
  ];
}

export function frameOf(places: readonly Spot[], width: number, mostHeight: number): Frame {
  const all = places.length > 0 ? places : ([[0, 0, 0]] as Spot[]);
  const ahead = spanOf(
    all.map(([x]) => x),
    40,
  );
  const left = spanOf(
    all.map(([, y]) => y),
    40,
  );
  const up = spanOf(
    all.map(([, , z]) => z),
    40,
  );
  const across = ahead.to - ahead.from;
  const down = left.to - left.from + (up.to - up.from);
  const room = mostHeight - MARGIN.top - MARGIN.between - MARGIN.bottom;
  const scale = Math.max(0.05, Math.min((width - 2 * MARGIN.x) / across, room / down));
  const sideTop = MARGIN.top + (left.to - left.from) * scale + MARGIN.between;
  return {
    width,
    height: sideTop + (up.to - up.from) * scale + MARGIN.bottom,
    scale,
    ahead,
    left,
    up,
    planTop: MARGIN.top,
    sideTop,
  };
}

/** From the car to the page: nose left, the plan from above, the side from the left. */
export function onPage(frame: Frame, view: View, [x, y, z]: Spot): Point {
  const px = MARGIN.x + (frame.ahead.to - x) * frame.scale;
  return view === "plan"
    ? [px, frame.planTop + (y - frame.left.from) * frame.scale]
    : [px, frame.sideTop + (frame.up.to - z) * frame.scale];
}

/** Back again: what the view does not show stays as it was. */
export function fromPage(frame: Frame, view: View, [px, py]: Point, was: Spot): Spot {
  const x = frame.ahead.to - (px - MARGIN.x) / frame.scale;
  return view === "plan"
    ? [x, frame.left.from + (py - frame.planTop) / frame.scale, was[2]]
    : [x, was[1], frame.up.to - (py - frame.sideTop) / frame.scale];
}

/** On the grid of the units in use: whole millimetres, or eighths of an inch. */
export function onGrid(spot: Spot, system: "metric" | "us"): Spot {
  const grid = system === "metric" ? 1 : 25.4 / 8;
  const [x, y, z] = spot.map((each) => Math.round(Math.round(each / grid) * grid * 100) / 100);
  return [x ?? 0, y ?? 0, z ?? 0];
}

export interface WayPoint {
  at_mm: Spot;
  radius_mm: number | null;
}

const minus = (a: Spot, b: Spot): Spot => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const length = (a: Spot): number => Math.hypot(...a);
const times = (a: Spot, by: number): Spot => [a[0] * by, a[1] * by, a[2] * by];
const plus = (a: Spot, b: Spot): Spot => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];

/** A way as it is drawn while it is dragged: its corners rounded, before the core has it. */
export function drawnWay(points: readonly WayPoint[]): Spot[] {
  return points.flatMap(({ at_mm: at, radius_mm: radius }, n): Spot[] => {
    const [before, after] = [points[n - 1]?.at_mm, points[n + 1]?.at_mm];
    if (!before || !after || !radius) return [at];
    const [back, on] = [minus(before, at), minus(after, at)];
    const [backLong, onLong] = [length(back), length(on)];
    if (backLong < 1e-6 || onLong < 1e-6) return [at];
    const cosine = (back[0] * on[0] + back[1] * on[1] + back[2] * on[2]) / (backLong * onLong);
    const half = Math.acos(Math.max(-1, Math.min(1, cosine))) / 2;
    const taken = Math.min(radius / Math.max(Math.tan(half), 1e-3), backLong / 2, onLong / 2);
    const [from, to] = [
      plus(at, times(back, taken / backLong)),
      plus(at, times(on, taken / onLong)),
    ];
    // a bend as a curve that leaves both legs along them
    return [0, 0.25, 0.5, 0.75, 1].map((t): Spot => {
      const [a, b, c] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2];
      return plus(plus(times(from, a), times(at, b)), times(to, c));
    });
  });
}

/** A first way for a line that has none: from port to port as far as their places are known. */
export function firstWay(line: Line, pan: readonly (readonly number[])[]): WayPoint[] {
  const xs = pan.map(([x = 0]) => x);
  const ys = pan.map(([, y = 0]) => y);
  const beside: Spot = [Math.round(Math.max(...xs, 0)), Math.round(Math.max(...ys, 0)) + 60, 80];
  const [first, last] = line.ends;
  const start = first.place_mm ?? last.place_mm ?? beside;
  const end: Spot = (first.place_mm ? last.place_mm : null) ?? [start[0] + 250, start[1], start[2]];
  return [
    { at_mm: start, radius_mm: null },
    { at_mm: end, radius_mm: null },
  ];
}

/** With a bend put into the leg behind a point, of the least radius that the line takes. */
export function withBend(points: readonly WayPoint[], after: number, radius: number): WayPoint[] {
  const [a, b] = [points[after], points[after + 1]];
  if (!a || !b) return [...points];
  const middle = times(plus(a.at_mm, b.at_mm), 0.5);
  const off: Spot = [middle[0], Math.round(middle[1] + 30), Math.round(middle[2])];
  const bend = {
    at_mm: [Math.round(off[0]), off[1], off[2]] as Spot,
    radius_mm: Math.ceil(radius),
  };
  return [...points.slice(0, after + 1), bend, ...points.slice(after + 1)];
}

const ALONG = [0.5, 0.35, 0.65, 0.22, 0.78, 0.1, 0.9];
const APART = 22; // [px] between two numbers

/** Where the number of each line stands on the page: along it, and off the numbers before. */
export function numberPlaces(ways: readonly (readonly Point[])[]): (Point | null)[] {
  const taken: Point[] = [];
  return ways.map((way) => {
    if (way.length < 2) return null;
    const spots = ALONG.map((share): Point => way[Math.round(share * (way.length - 1))] ?? [0, 0]);
    const off = (spot: Point): number =>
      Math.min(...taken.map(([x, y]) => Math.hypot(x - spot[0], y - spot[1])), Infinity);
    const found =
      spots.find((spot) => off(spot) >= APART) ??
      spots.reduce((best, spot) => (off(spot) > off(best) ? spot : best));
    taken.push(found);
    return found;
  });
}
