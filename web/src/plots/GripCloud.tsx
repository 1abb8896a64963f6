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

/**
 * What the car pulls: every moment as a dot, and a line round what it holds for each time. Drawn as
 * the load pad is: braking up, a left turn to the right.
 */
export const GripCloud = memo(function GripCloud({
  cloud,
  held,
  size,
}: {
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
          braking
        </text>
        <text x={middle} y={size - 5}>
          gaining speed
        </text>
        <text transform={`translate(13 ${middle}) rotate(-90)`}>right turn</text>
        <text transform={`translate(${size - 5} ${middle}) rotate(-90)`}>left turn</text>
      </g>
    </svg>
  );
});
