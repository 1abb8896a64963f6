import { useRef, type ReactElement } from "react";
import type { JudgedTrace } from "../../api/judged";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { niceTicks, tracePath } from "../../plots/traces";

const LEFT = 34;
const TOP = 12;
const FOOT = 26;

/** Where the lowest of some samples is, between two times. */
export function lowestIn(
  times: readonly number[],
  values: readonly number[],
  from: number,
  to: number,
): number {
  let best = -1;
  times.forEach((time, at) => {
    if (time < from || time > to) return;
    if (best < 0 || (values[at] ?? 0) < (values[best] ?? 0)) best = at;
  });
  return Math.max(0, best);
}

/** The gallery round one dip: measured, and as this sensor would show the forecast. */
export function DipTrace({
  trace,
  width,
  height,
}: {
  trace: JudgedTrace;
  width: number;
  height: number;
}): ReactElement | null {
  const sheet = useRef<SVGSVGElement>(null);
  useClearWords(sheet);
  const { time_s: times, measured_bar: measured, expected_bar: expected, usual_bar: usual } = trace;
  const [first, last] = [times[0], times.at(-1)];
  if (first === undefined || last === undefined || width <= 0) return null;
  const most = Math.max(...measured, ...usual, 1) * 1.1;
  const x = (time: number): number =>
    LEFT + ((time - first) / Math.max(0.1, last - first)) * (width - LEFT - 12);
  const y = (bar: number): number => height - FOOT - (bar / most) * (height - FOOT - TOP);
  const low = lowestIn(times, measured, trace.from_s, trace.to_s);
  const foreseen = expected
    ? lowestIn(times, expected, trace.from_s - 0.5, trace.to_s + 0.5)
    : null;
  const label = (words: string, at: number, bar: number, fill: string): ReactElement => (
    <Words
      rank="title"
      anchor={[x(times[at] ?? 0), y(bar)]}
      x={x(times[at] ?? 0) + 14}
      y={y(bar) + (fill === "var(--ink)" ? 26 : -14)}
      fontSize="14"
      fontWeight="600"
      className="font-figure"
      fill={fill}
      {...HALO}
    >
      {words}
    </Words>
  );
  const seconds = niceTicks(last - first, 6);
  return (
    <svg
      ref={sheet}
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label={`${trace.place}, ${trace.lap}: lowest ${(measured[low] ?? 0).toFixed(1)} bar measured${
        foreseen !== null && expected ? `, ${(expected[foreseen] ?? 0).toFixed(1)} forecast` : ""
      }`}
    >
      <rect
        x={x(trace.from_s)}
        y={TOP}
        width={Math.max(2, x(trace.to_s) - x(trace.from_s))}
        height={height - FOOT - TOP}
        fill="var(--bad-wash)"
      />
      {niceTicks(most, 4).map((bar) => (
        <g key={bar}>
          <path d={`M${LEFT} ${y(bar)}H${width - 12}`} stroke="var(--hair)" />
          <text x={LEFT - 6} y={y(bar) + 4} fontSize="13" textAnchor="end" fill="var(--ink-2)">
            {bar}
          </text>
        </g>
      ))}
      {seconds.map((second) => (
        <text
          key={second}
          x={x(first + second)}
          y={height - 8}
          fontSize="13"
          textAnchor="middle"
          fill="var(--ink-2)"
        >
          {(first + second).toFixed(1)}
          {second === 0 ? " s" : ""}
        </text>
      ))}
      <path
        d={tracePath(times, usual, x, y)}
        fill="none"
        stroke="var(--ink-2)"
        strokeWidth="1"
        strokeDasharray="5 3"
      />
      {expected && (
        <path
          d={tracePath(times, expected, x, y)}
          fill="none"
          stroke="var(--oil-deep)"
          strokeWidth="2.25"
        />
      )}
      <path
        d={tracePath(times, measured, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
      />
      {label(`measured ${(measured[low] ?? 0).toFixed(1)}`, low, measured[low] ?? 0, "var(--ink)")}
      {foreseen !== null &&
        expected &&
        label(
          `forecast ${(expected[foreseen] ?? 0).toFixed(1)}`,
          foreseen,
          expected[foreseen] ?? 0,
          "var(--oil-deep)",
        )}
    </svg>
  );
}
