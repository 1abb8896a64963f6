import { cross, dot, minus, type Vector } from "./solid";

/** How the viewer stands: turned about "up", and lifted [degrees]. */
export interface Stance {
  turn: number;
  lift: number;
  zoom: number;
}

/** From the engine's left and a little behind and above: nose left on the page. */
export const FIRST_STANCE: Stance = { turn: -32, lift: 24, zoom: 1 };

/** Where one likes to look from. */
export const STANCES: readonly (readonly [string, Stance])[] = [
  ["the side", FIRST_STANCE],
  ["above", { turn: 0, lift: 80, zoom: 1 }],
  ["under", { turn: -32, lift: -38, zoom: 1 }],
];

/** A parallel projection: page axes in the engine's frame, and what lies in the middle. */
export interface Projection {
  toViewer: Vector;
  right: Vector;
  up: Vector;
  middle: Vector;
  /** Where the middle lies on the page [px]. */
  centre: readonly [number, number];
  /** Pixels per millimetre. */
  scale: number;
  width: number;
  height: number;
}

const unit = (v: Vector): Vector => {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
};

const sum = (a: Vector, p: number, b: Vector, q: number): Vector => [
  a[0] * p + b[0] * q,
  a[1] * p + b[1] * q,
  a[2] * p + b[2] * q,
];

/** Toward the viewer, in the engine's frame; `upright` is "up" with the car standing. */
export function viewerOf(stance: Stance, upright: Vector): Vector {
  const ahead = unit(sum([1, 0, 0], 1, upright, -upright[0]));
  const left = cross(upright, ahead);
  const [turn, lift] = [(stance.turn * Math.PI) / 180, (stance.lift * Math.PI) / 180];
  const level = sum(left, Math.cos(turn), ahead, Math.sin(turn));
  return unit(sum(level, Math.cos(lift), upright, Math.sin(lift)));
}

export interface Margin {
  x: number;
  top: number;
  bottom: number;
}

/** The projection in which all points fit into the page, with a margin. */
export function projectionOf(
  stance: Stance,
  upright: Vector,
  points: readonly Vector[],
  width: number,
  height: number,
  margin: Margin,
): Projection {
  const toViewer = viewerOf(stance, upright);
  const right = unit(cross(upright, toViewer));
  const up = cross(toViewer, right);
  const us = points.map((point) => dot(point, right));
  const vs = points.map((point) => dot(point, up));
  const [u0, u1] = [Math.min(...us), Math.max(...us)];
  const [v0, v1] = [Math.min(...vs), Math.max(...vs)];
  const fit = Math.min(
    (width - 2 * margin.x) / (u1 - u0),
    (height - margin.top - margin.bottom) / (v1 - v0),
  );
  const depth = points.reduce((far, point) => far + dot(point, toViewer) / points.length, 0);
  const middle = sum(sum(right, (u0 + u1) / 2, up, (v0 + v1) / 2), 1, toViewer, depth);
  const centre = [width / 2, (height + margin.top - margin.bottom) / 2] as const;
  const scale = Math.max(0.05, fit) * stance.zoom;
  return { toViewer, right, up, middle, centre, scale, width, height };
}

/** Where a point of the engine's frame lies on the page [px]. */
export function onPage(projection: Projection, point: Vector): [number, number] {
  const from = minus(point, projection.middle);
  return [
    projection.centre[0] + dot(from, projection.right) * projection.scale,
    projection.centre[1] - dot(from, projection.up) * projection.scale,
  ];
}

/** The stance after a drag over the page [px]; the lift stays short of straight up and down. */
export function dragged(stance: Stance, dx: number, dy: number): Stance {
  return {
    ...stance,
    turn: ((((stance.turn - dx * 0.5 + 180) % 360) + 360) % 360) - 180,
    lift: Math.max(-85, Math.min(85, stance.lift + dy * 0.5)),
  };
}
