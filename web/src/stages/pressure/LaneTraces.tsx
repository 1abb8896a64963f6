import { memo, type ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { AirBar } from "../../drawing/AirBar";
import { tracePath } from "../../plots/traces";
import type { Lane } from "./lanes";

/** The room that traces are laid out in [px]. */
export interface Room {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

const GAP = 3;

/** Each lane's top and bottom [px]. */
export function laid(lanes: readonly Lane[], { top, bottom }: Room): [number, number][] {
  const parts = lanes.reduce((sum, { part }) => sum + part, 0);
  let y = top;
  return lanes.map(({ part }) => {
    const high = ((bottom - top) * part) / parts;
    y += high;
    return [y - high + GAP, y - GAP];
  });
}

/** Lanes of lines over the lap, pressure dips as bars of air behind the gallery's. */
export const LaneTraces = memo(function LaneTraces({
  stage,
  lanes,
  room,
  x,
}: {
  stage: PressureStage;
  lanes: readonly Lane[];
  room: Room;
  x: (time: number) => number;
}): ReactElement {
  const { samples, pressure } = stage;
  const heights = laid(lanes, room);
  return (
    <>
      {lanes.map((lane, index) => {
        const [top, bottom] = heights[index] ?? [0, 0];
        const y = (value: number): number => bottom - (value / lane.most) * (bottom - top);
        return (
          <g key={lane.key} data-lane={lane.key}>
            {lane.key === "gallery" &&
              pressure.dips.map((dip) => (
                <AirBar
                  key={dip.rank}
                  x={x(dip.start_s)}
                  y={top}
                  width={Math.max(2, x(dip.end_s) - x(dip.start_s))}
                  height={bottom - top}
                  data-dip={dip.rank}
                />
              ))}
            <path d={`M${room.left} ${bottom}H${room.right}`} stroke="var(--hair)" />
            {lane.lines.map(({ values, stroke, width, dash }, line) => (
              <path
                key={line}
                d={tracePath(samples.time_s, values, x, y)}
                fill="none"
                stroke={stroke}
                strokeWidth={width}
                strokeDasharray={dash}
              />
            ))}
            <text
              x={room.left - 8}
              y={(top + bottom) / 2 + 4}
              fontSize="12.5"
              fontWeight="600"
              textAnchor="end"
              fill={lane.ink}
            >
              {lane.label}
            </text>
          </g>
        );
      })}
    </>
  );
});

/** What each lane has at the moment, beside its line. */
export function LaneFigures({
  lanes,
  room,
  index,
  x,
}: {
  lanes: readonly Lane[];
  room: Room;
  /** Of the sample. */
  index: number;
  /** Of the moment [px]. */
  x: number;
}): ReactElement {
  const heights = laid(lanes, room);
  const isRight = x > room.right - 70;
  return (
    <g className="font-figure">
      {lanes.map((lane, at) => {
        const [top, bottom] = heights[at] ?? [0, 0];
        const value = lane.lines.at(-1)?.values[index] ?? 0;
        return (
          <text
            key={lane.key}
            x={isRight ? x - 6 : x + 6}
            y={(top + bottom) / 2 + 4}
            fontSize="13"
            fontWeight="600"
            textAnchor={isRight ? "end" : "start"}
            fill="var(--ink)"
            stroke="var(--panel)"
            strokeWidth="4"
            paintOrder="stroke"
          >
            {lane.said(value)}
          </text>
        );
      })}
    </g>
  );
}
