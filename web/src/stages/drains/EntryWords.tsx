import type { ReactElement } from "react";
import type { Drain } from "../../api/drains";
import type { Point } from "../../drawing/geometry";
import { HALO, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import type { Now } from "./elevation";
import { lengthIn } from "./sentence";

/** Where it enters, and how the oil stands there. */
export function EntryWords({
  drain,
  now,
  at,
  width,
  isNarrow,
}: {
  drain: Drain;
  now: Now;
  at: Point;
  width: number;
  isNarrow: boolean;
}): ReactElement {
  const shown = useSettings();
  const depth = -(drain.points_mm.at(-1)?.[2] ?? 0);
  const isPulled = drain.junction !== "";
  const rail = `${lengthIn(shown, depth)} ${depth >= 0 ? "under" : "over"} the rail`;
  const isUnder = !isPulled && now.underMm > 0;
  const isRight = at[0] > width * 0.6;
  const x = at[0] + (isRight ? -18 : 18);
  const oil = isPulled
    ? "a stage empties it"
    : `${lengthIn(shown, now.underMm)} ${isUnder ? "under oil" : "over the oil"} now`;
  return (
    <Words
      rank="part"
      x={x}
      y={at[1] + 46}
      fontSize="14"
      fontWeight="600"
      textAnchor={isRight ? "end" : "start"}
      fill="var(--ink)"
      {...HALO}
      anchor={at}
    >
      {isPulled ? "Junction" : "Entry"}, {drain.size}
      {(isNarrow ? [`${rail},`, oil] : [`${rail}, ${oil}`]).map((words) => (
        <tspan
          key={words}
          x={x}
          dy="17"
          fontWeight="500"
          fill={isUnder && words.endsWith(oil) ? "var(--bad)" : "var(--ink-2)"}
        >
          {words}
        </tspan>
      ))}
    </Words>
  );
}

/** Where another's oil comes in. */
export function Joins({
  drain,
  at,
  width,
}: {
  drain: Drain;
  at: Point;
  width: number;
}): ReactElement {
  const isRight = at[0] > width * 0.6;
  return (
    <g>
      <circle
        cx={at[0]}
        cy={at[1]}
        r="7"
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.75"
        data-keep-free
      />
      <Words
        rank="part"
        x={at[0] + (isRight ? -16 : 16)}
        y={at[1] + 5}
        fontSize="14"
        fontWeight="600"
        textAnchor={isRight ? "end" : "start"}
        fill="var(--ink)"
        {...HALO}
        anchor={at}
      >
        {drain.shared_with.join(", ")} {drain.shared_with.length > 1 ? "come" : "comes"} in
      </Words>
    </g>
  );
}
