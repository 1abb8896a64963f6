import type { ReactElement } from "react";
import type { Drain } from "../../api/drains";
import { pathOf, type Point } from "../../drawing/geometry";
import { HALO, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { risingStretch, type Cell } from "./elevation";
import { lengthIn } from "./sentence";

/** A drain's line drawn as glass: amber across where it is full, a film where it is part full. */
export function Pipe({
  drain,
  cells,
  place,
  scale,
}: {
  drain: Drain;
  cells: readonly Cell[];
  place: (point: Point) => Point;
  scale: number;
}): ReactElement {
  const { system, units } = useSettings();
  const rising = risingStretch(drain, cells);
  const path = (points: readonly Point[], closed = true): string =>
    pathOf(points.map(place), closed);
  const side = (at: 0 | 3): Point[] =>
    cells.flatMap(({ outline }) => [outline[at], outline[at === 0 ? 1 : 2]]);
  const from = rising && place(rising.from);
  return (
    <g data-drain={drain.run}>
      {cells.map(({ outline }, index) => (
        <path key={index} d={path(outline)} fill="var(--panel)" />
      ))}
      {cells.map(({ oil, full }, index) =>
        oil ? (
          <path key={index} d={path(oil)} fill="var(--oil)" data-oil={full ? "full" : "film"} />
        ) : null,
      )}
      {([0, 3] as const).map((at) => (
        <path
          key={at}
          d={path(side(at), false)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.75"
          strokeLinejoin="round"
          data-keep-free
        />
      ))}
      {rising && from && rising.lengthMm > 25 && (
        <g data-rises>
          <Arrow from={from} to={place(rising.to)} aside={drain.outlet_mm * scale * 0.5 + 10} />
          <Words
            rank="part"
            x={from[0] + 26}
            y={from[1] + 22}
            fontSize="14"
            fontWeight="600"
            fill="var(--bad)"
            {...HALO}
            anchor={from}
          >
            Runs uphill under this load
            <tspan x={from[0] + 26} dy="16" fontWeight="500" fill="var(--ink-2)">
              {lengthIn({ units, system }, rising.lengthMm)} of it
            </tspan>
          </Words>
        </g>
      )}
    </g>
  );
}

function Arrow({ from, to, aside }: { from: Point; to: Point; aside: number }): ReactElement {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length < 12) return <></>;
  const way: Point = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  const out: Point = [-way[1] * aside, way[0] * aside];
  const [a, b]: Point[] = [
    [from[0] + out[0], from[1] + out[1]],
    [to[0] + out[0], to[1] + out[1]],
  ];
  if (!a || !b) return <></>;
  const head = (s: number): string =>
    `${b[0] - way[0] * 9 - way[1] * s} ${b[1] - way[1] * 9 + way[0] * s}`;
  return (
    <g>
      <path
        d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`}
        stroke="var(--bad)"
        strokeWidth="2"
        fill="none"
      />
      <path d={`M${b[0]} ${b[1]}L${head(4.5)}L${head(-4.5)}Z`} fill="var(--bad)" />
    </g>
  );
}
