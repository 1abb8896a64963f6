import type { ReactElement } from "react";
import type { Point } from "../../drawing/geometry";
import { Words } from "../../drawing/Words";

/** A name and what is had there, one above the other. */
export function TwoWords({
  at: [x, y],
  first,
  second,
  anchor = "start",
  rank = "part",
  isBad = false,
}: {
  at: Point;
  first: string;
  second?: string;
  anchor?: "start" | "middle" | "end";
  rank?: "part" | "name";
  isBad?: boolean;
}): ReactElement {
  return (
    <Words
      rank={rank}
      x={x}
      y={y}
      fontSize="13.5"
      fontWeight="600"
      textAnchor={anchor}
      fill={isBad ? "var(--bad)" : "var(--ink)"}
      stroke="var(--paper)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {first}
      {second && (
        <tspan x={x} dy="16" fontWeight="500" fill="var(--ink-2)">
          {second}
        </tspan>
      )}
    </Words>
  );
}
