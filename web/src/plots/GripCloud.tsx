import { memo, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import { edgePlaces, placeOf, type Dial } from "./rose";

type Held = Schemas["HeldLoadsOut"];

/** Widths of the lines from the shortest hold to the longest: what is held longer is drawn heavier. */
const WIDTHS = [0.75, 1, 1.5, 2.25, 3];

const path = (places: readonly (readonly [number, number])[]): string =>
  `M${places.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;

/** The rim's load: the next quarter of g above the cloud. */
export const rimOf = (cloud: readonly (readonly [number, number])[]): number =>
  Math.max(0.5, Math.ceil(4 * Math.max(0, ...cloud.map(([s, f]) => Math.hypot(s, f)))) / 4);

/** Highest load held for each time toward a side of the car: "left" is oil thrown left. */
export function heldToward(held: Held, thrownDeg: number): number[] {
  const at = held.thrown_deg.findIndex((deg) => Math.abs(deg - thrownDeg) < 0.5);
  return held.load_g.map((row) => row[at] ?? 0);
}

export type NosePoints = "front" | "rear" | "left" | "right";

const YAW: Record<NosePoints, number> = { front: 0, left: 90, rear: 180, right: 270 };

/** The same loads along the engine's axes: turned by where the crank's nose points. */
export function alongEngine(
  cloud: readonly (readonly [number, number])[],
  held: Held,
  nose: NosePoints,
): { cloud: [number, number][]; held: Held } {
  const angle = (YAW[nose] * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return {
    cloud: cloud.map(([side, fore]) => [side * cos - fore * sin, fore * cos + side * sin]),
    held: { ...held, thrown_deg: held.thrown_deg.map((deg) => (deg - YAW[nose] + 360) % 360) },
  };
}

const AXES = {
  car: ["braking", "gaining speed", "right turn", "left turn"],
  engine: ["oil to the nose", "oil to the tail", "oil to its left", "oil to its right"],
} as const;

/**
 * What the car pulls: every moment as a dot, and a line round what it holds for each time. Drawn as
 * the load pad is: braking up, a left turn to the right.
 */
export const GripCloud = memo(function GripCloud({
  cloud,
  held,
  size,
  axes = "car",
}: {
  /** Whose axes it is drawn along. */
  axes?: "car" | "engine";
  cloud: readonly (readonly [number, number])[];
  held: Held;
  size: number;
}): ReactElement {
  const dial: Dial = { size, radius: size / 2 - 26, rim: rimOf(cloud) };
  const middle = size / 2;
  const rings = [0.5, 1, 1.5, 2, 2.5, 3].filter((g) => g < dial.rim);
  return (
    <svg
      width={size}
      height={size}
      role="img"
      aria-label="Loads of the lap, and what is held in each direction"
    >
      {rings.map((g) => (
        <circle
          key={g}
          cx={middle}
          cy={middle}
          r={(g / dial.rim) * dial.radius}
          fill="none"
          stroke="var(--hair)"
        />
      ))}
      <path
        d={`M${middle} ${middle - dial.radius}v${2 * dial.radius}M${middle - dial.radius} ${middle}h${2 * dial.radius}`}
        stroke="var(--hair)"
      />
      {cloud.map(([sideG, foreG], index) => {
        const [x, y] = placeOf(dial, { sideG, foreG });
        return <circle key={index} cx={x} cy={y} r="1.2" fill="var(--line)" />;
      })}
      {held.load_g.map((row, index) => (
        <path
          key={held.holds_s[index]}
          d={path(edgePlaces(dial, held.thrown_deg, row))}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={WIDTHS[Math.min(index, WIDTHS.length - 1)]}
          data-held={held.holds_s[index]}
        />
      ))}
      <circle cx={middle} cy={middle} r={dial.radius} fill="none" stroke="var(--ink)" />
      {rings.map((g) => (
        <text
          key={g}
          x={middle + (g / dial.rim) * dial.radius * Math.SQRT1_2 + 2}
          y={middle + (g / dial.rim) * dial.radius * Math.SQRT1_2 + 12}
          fontSize="12"
          fill="var(--ink)"
          stroke="var(--paper)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {g} g
        </text>
      ))}
      <g fontSize="13" fontWeight="500" fill="var(--ink)" textAnchor="middle">
        <text x={middle} y={14}>
          {AXES[axes][0]}
        </text>
        <text x={middle} y={size - 5}>
          {AXES[axes][1]}
        </text>
        <text transform={`translate(13 ${middle}) rotate(-90)`}>{AXES[axes][2]}</text>
        <text transform={`translate(${size - 5} ${middle}) rotate(-90)`}>{AXES[axes][3]}</text>
      </g>
    </svg>
  );
});
