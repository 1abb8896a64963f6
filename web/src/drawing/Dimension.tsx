import type { ReactElement } from "react";
import type { Point } from "./geometry";
import { Words } from "./Words";

/** A dimension between two points, `offset` px to the left of the way from a to b. */
export function Dimension({
  a,
  b,
  offset,
  text,
}: {
  a: Point;
  b: Point;
  offset: number;
  text: string;
}): ReactElement | null {
  const along: Point = [b[0] - a[0], b[1] - a[1]];
  const length = Math.hypot(...along);
  if (length < 6) return null;
  const u: Point = [along[0] / length, along[1] / length];
  const n: Point = [u[1], -u[0]];
  const at = (from: Point, ahead: number, aside: number): Point => [
    from[0] + u[0] * ahead + n[0] * aside,
    from[1] + u[1] * ahead + n[1] * aside,
  ];
  const line = (from: Point, to: Point): string =>
    `M${from[0].toFixed(1)} ${from[1].toFixed(1)}L${to[0].toFixed(1)} ${to[1].toFixed(1)}`;
  const sign = Math.sign(offset);
  const start = at(a, 0, offset);
  const end = at(b, 0, offset);
  const gap = text.length * 3.4 + 5;
  const roomy = length > 2 * gap + 14;
  const middle = at(a, length / 2, offset + (roomy ? 0 : sign * 9));
  let angle = (Math.atan2(u[1], u[0]) * 180) / Math.PI;
  if (angle > 90 || angle <= -90) angle += 180;
  const head = (tip: Point, way: number): string => {
    const back = (aside: number): Point => at(tip, way * 7, aside);
    return `M${tip[0]} ${tip[1]}L${back(2.2).join(" ")}L${back(-2.2).join(" ")}Z`;
  };
  return (
    <g stroke="var(--ink-2)" strokeWidth="0.9" fill="none">
      <path d={line(at(a, 0, sign * 4), at(a, 0, offset + sign * 4))} />
      <path d={line(at(b, 0, sign * 4), at(b, 0, offset + sign * 4))} />
      {roomy ? (
        <>
          <path d={line(start, at(start, length / 2 - gap, 0))} />
          <path d={line(at(start, length / 2 + gap, 0), end)} />
        </>
      ) : (
        <path d={line(start, end)} />
      )}
      <path d={head(start, 1)} fill="var(--ink-2)" stroke="none" />
      <path d={head(end, -1)} fill="var(--ink-2)" stroke="none" />
      <Words
        rank="dimension"
        x={middle[0]}
        y={middle[1]}
        transform={`rotate(${angle.toFixed(1)} ${middle[0].toFixed(1)} ${middle[1].toFixed(1)})`}
        dominantBaseline="central"
        textAnchor="middle"
        fontSize="14"
        fontWeight="500"
        fill="var(--ink)"
        stroke="none"
      >
        {text}
      </Words>
    </g>
  );
}
