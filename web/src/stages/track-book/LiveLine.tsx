import type { ReactElement } from "react";
import type { LivePoint } from "../../api/live";
import { pathOf } from "./liveWords";

const SPAN = 30; // [s] that are drawn
const LEFT = 34;
const FOOT = 22;

/** The last half minute: measured over expected, and under which it is a dip. */
export function LiveLine({
  points,
  dipShare,
  width,
  height,
}: {
  points: readonly LivePoint[];
  /** Of what is usual, under which it is a dip. */
  dipShare: number;
  width: number;
  height: number;
}): ReactElement {
  const last = points.at(-1)?.t ?? 0;
  const most = Math.ceil(Math.max(1, ...points.map(({ bar, usual }) => Math.max(bar, usual))));
  const x = (t: number): number => LEFT + ((t - last + SPAN) / SPAN) * (width - LEFT - 8);
  const y = (bar: number): number => 8 + (1 - bar / most) * (height - FOOT - 8);
  const ticks = [0, most / 2, most];
  return (
    <svg
      role="img"
      aria-label="Gallery pressure over the last half minute: measured, and as expected"
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      className="block"
    >
      {ticks.map((bar) => (
        <g key={bar}>
          <line x1={LEFT} x2={width - 8} y1={y(bar)} y2={y(bar)} className="stroke-hair" />
          <text
            x={LEFT - 6}
            y={y(bar) + 5}
            textAnchor="end"
            className="fill-ink-2 font-figure text-[15px]"
          >
            {Number.isInteger(bar) ? bar : bar.toFixed(1)}
          </text>
        </g>
      ))}
      {[-30, -20, -10, 0].map((back) => (
        <text
          key={back}
          x={x(last + back)}
          y={height - 4}
          textAnchor={back === 0 ? "end" : back === -30 ? "start" : "middle"}
          className="fill-ink-2 font-figure text-[15px]"
        >
          {back === 0 ? "now" : `${back} s`}
        </text>
      ))}
      <path
        d={pathOf(points, ({ usual }) => dipShare * usual, x, y)}
        className="fill-none stroke-bad"
        strokeDasharray="2 4"
        strokeWidth="1.5"
      />
      <path
        d={pathOf(points, ({ expected }) => expected, x, y)}
        className="fill-none stroke-oil-deep"
        strokeWidth="4"
      />
      <path
        d={pathOf(points, ({ bar }) => bar, x, y)}
        className="fill-none stroke-ink"
        strokeWidth="2.5"
      />
    </svg>
  );
}
