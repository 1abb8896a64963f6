import type { FitFrame, FitView } from "../../api/fit";
import type { Point } from "../../drawing/geometry";

export type Key = "side" | "front" | "plan";

/** Which two of a place's three figures a view shows. */
const AXES: Readonly<Record<Key, readonly [0 | 1, 1 | 2]>> = {
  side: [0, 2],
  front: [1, 2],
  plan: [0, 1],
};
const BESIDE = 150; // [mm] round the pan that is drawn at most
const NEAR = 130; // [mm] to each side of a place that is looked at from near
const NEAR_UP = 75;

export interface Layout {
  scale: number;
  width: number;
  height: number;
  /** From the view's own figures to the page. */
  place: (point: Point) => Point;
  /** From the page back to the view's own figures. */
  back: (point: Point) => Point;
  /** A place of three figures on the page. */
  spot: (at: readonly [number, number, number]) => Point;
}

const within = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

/** The box of what a view draws: the pan, and of what is beside it what is near. */
function boxOfView(view: FitView): [number, number, number, number] {
  const pan = view.pan_mm.flat();
  const all = [
    ...pan,
    ...view.beside.flatMap(({ outline_mm: ring }) => ring),
    ...view.ground_mm,
    ...view.crank_mm,
  ];
  const of = (k: 0 | 1): [number, number] => {
    const [own, every] = [pan.map((p) => p[k]), all.map((p) => p[k])];
    const [low, high] = [Math.min(...own), Math.max(...own)];
    return [
      Math.max(Math.min(...every), low - BESIDE),
      Math.min(Math.max(...every), high + BESIDE),
    ];
  };
  const [[left, right], [low, high]] = [of(0), of(1)];
  return [left, low, right, high];
}

/** How a view lies on a page: ahead to the left, the car's left to the left from behind. */
export function layoutOf(
  view: FitView,
  width: number,
  mostHeight: number,
  /** A place to look at from near. */
  near: readonly [number, number, number] | null = null,
  margin = 26,
): Layout {
  const key = view.key as Key;
  const [one, other] = AXES[key];
  const [left, low, right, high] = near
    ? [near[one] - NEAR, near[other] - NEAR_UP, near[one] + NEAR, near[other] + NEAR_UP]
    : boxOfView(view);
  const edge = near ? 0 : margin;
  const scale = Math.min(
    (width - 2 * edge) / Math.max(right - left, 1),
    (mostHeight - 2 * edge) / Math.max(high - low, 1),
  );
  const aside = (width - scale * (right - left)) / 2;
  // from near what is outside is cut by the sheet; else what lies far off ends at its edge
  const kept = (value: number, least: number, most: number): number =>
    near ? value : within(value, least, most);
  const place = ([x, y]: Point): Point => [
    aside + scale * (right - kept(x, left, right)),
    edge + scale * (key === "plan" ? kept(y, low, high) - low : high - kept(y, low, high)),
  ];
  return {
    scale,
    width,
    height: scale * (high - low) + 2 * edge,
    place,
    back: ([x, y]) => [
      right - (x - aside) / scale,
      key === "plan" ? low + (y - edge) / scale : high - (y - edge) / scale,
    ],
    spot: (at) => place([at[one], at[other]]),
  };
}

/** A place with two of its figures as they were pointed at in a view; the third stays. */
export function pointed(
  at: readonly [number, number, number],
  key: Key,
  [one, other]: Point,
): [number, number, number] {
  const next: [number, number, number] = [...at];
  next[AXES[key][0]] = Math.round(one);
  next[AXES[key][1]] = Math.round(other);
  return next;
}

/** The view that shows a place's gap best: the one in which its two ends lie farthest apart. */
export function bestView(frame: FitFrame, id: string): Key {
  const ends = frame.places[id];
  const [at, to] = ends ?? [null, null];
  if (!at || !to) return "front";
  const seen = (key: Key): number =>
    Math.hypot(to[AXES[key][0]] - at[AXES[key][0]], to[AXES[key][1]] - at[AXES[key][1]]);
  return seen("front") >= seen("side") - 0.5 ? "front" : "side";
}

export const TITLES: Readonly<Record<Key, readonly [string, string]>> = {
  side: ["Side", "from the left, nose left"],
  front: ["From behind", "looking forward"],
  plan: ["From above", "nose left"],
};
