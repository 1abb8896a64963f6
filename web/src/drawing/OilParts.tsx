import type { ReactElement } from "react";
import { pathOf, type Point } from "./geometry";
import { hatchPath } from "./hatch";
import { filled } from "./leaning";

/** Parts that oil goes through, as more than one stage draws them. */

export const metal = { fill: "var(--metal-2)", stroke: "var(--ink)", strokeWidth: 1.5 };

export const box = (x: number, y: number, width: number, height: number): Point[] => [
  [x, y],
  [x + width, y],
  [x + width, y + height],
  [x, y + height],
];

/** A vessel with oil, its gas above it. */
export function Vessel({
  x,
  y,
  width,
  height,
  gas,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  gas: number;
}): ReactElement {
  const air = gas < 0.01 ? 0 : Math.min(1, gas) * height;
  return (
    <>
      <rect x={x} y={y + air} width={width} height={height - air} fill="var(--oil)" />
      {air > 0 && (
        <>
          <rect x={x} y={y} width={width} height={air} fill="var(--air)" />
          <path
            d={hatchPath([box(x, y, width, air)], 6, -1)}
            stroke="var(--air-ink)"
            strokeWidth="0.8"
          />
        </>
      )}
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.75"
      />
    </>
  );
}

/** A cooler's rows, its middle at the origin. */
export function Matrix({
  gas,
  half,
  wavy,
}: {
  gas: number;
  half: number;
  wavy: boolean;
}): ReactElement {
  const rows = [-12, -2, 8, 18];
  return (
    <>
      <Vessel x={-half} y={-22} width={2 * half} height={50} gas={gas} />
      <path
        d={rows
          .map((y) =>
            wavy
              ? `M${-half + 5} ${y}${Array.from({ length: Math.floor((2 * half - 10) / 6) }, (_, n) => `l6 ${n % 2 ? -4 : 4}`).join("")}`
              : `M${-half + 5} ${y}H${half - 5}`,
          )
          .join("")}
        stroke="var(--ink)"
        strokeWidth="1.1"
        fill="none"
      />
      <path
        d={`M${-half} -22v50h-6v-50zM${half} -22v50h6v-50z`}
        fill="var(--metal)"
        stroke="var(--ink)"
      />
    </>
  );
}

/** A gear pump in its housing. */
export function PumpSymbol({ at: [x, y] }: { at: Point }): ReactElement {
  const teeth = [0, 60, 120].map((angle) => {
    const [u, v] = [9 * Math.cos((angle * Math.PI) / 180), 9 * Math.sin((angle * Math.PI) / 180)];
    return `M${-u} ${-v}L${u} ${v}`;
  });
  return (
    <g transform={`translate(${x} ${y})`} data-part="pump">
      <rect x={-32} y={-24} width={64} height={48} rx={16} {...metal} fill="var(--metal)" />
      <path
        d={hatchPath([box(-30, -22, 60, 44)], 5, 1)}
        stroke="var(--metal-ink)"
        strokeWidth="0.7"
        opacity="0.6"
      />
      {[-13, 13].map((side) => (
        <g key={side} transform={`translate(${side} 0)`}>
          <circle r="13" fill="var(--panel)" stroke="var(--ink)" strokeWidth="1.5" />
          <path d={teeth.join("")} stroke="var(--ink)" strokeWidth="1.5" />
          <circle r="3" fill="var(--ink)" />
        </g>
      ))}
    </g>
  );
}

/** An upright tank with its oil: `share` of it is full, and the surface rises by `lean` across. */
export function TankBox({
  at: { x, y, width, height },
  share,
  lean,
}: {
  at: { x: number; y: number; width: number; height: number };
  share: number;
  lean: number;
}): ReactElement {
  const bottom = y + height;
  const oil = filled(width, height, Math.min(1, share), lean);
  return (
    <>
      <rect x={x} y={y} width={width} height={height} fill="var(--panel)" />
      {oil.length > 0 && (
        <path
          d={pathOf(oil.map(([u, v]) => [x + u, bottom + v]))}
          fill="var(--oil)"
          stroke="var(--oil-deep)"
        />
      )}
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
        data-keep-free
      />
      <path d={`M${x + width / 2 - 12} ${bottom}h24`} stroke="var(--ink)" strokeWidth="4" />
    </>
  );
}
