import type { ReactElement } from "react";
import type { FlatDrawing } from "../../api/drawing";
import { closed, fromAbove, NoseUp } from "./fromAbove";

/** A flange as it was read, the nose up; the outline that is the flange, its opening, its holes. */
export function FlangePlan({
  drawing,
  width,
  marked,
}: {
  drawing: FlatDrawing;
  width: number;
  /** Holes that are to be measured. */
  marked: readonly number[];
}): ReactElement {
  const drawn = fromAbove(drawing.rings_mm[0] ?? [], width);
  return (
    <svg
      width={width}
      height={drawn.height}
      role="img"
      aria-label="The flange as drawn, the nose up"
      className="block font-figure"
      data-flange={drawing.rings_mm.length}
    >
      {drawing.rings_mm.map((ring, number) => (
        <path
          key={number}
          d={closed(drawn, ring)}
          fill={number === 0 ? "var(--metal-2)" : "var(--paper)"}
          stroke="var(--ink)"
          strokeWidth={number < 2 ? 1.5 : 0.8}
        />
      ))}
      {drawing.holes.map((hole, number) => {
        const [cx, cy] = drawn.at([hole.x_mm, hole.y_mm]);
        return (
          <circle
            key={number}
            cx={cx}
            cy={cy}
            r={Math.max(2, (hole.diameter_mm / 2) * drawn.scale)}
            fill={marked.includes(number) ? "var(--ink)" : "var(--paper)"}
            stroke="var(--ink)"
            data-hole
          />
        );
      })}
      <NoseUp width={width} />
    </svg>
  );
}
