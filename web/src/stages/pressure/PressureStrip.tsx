import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import type { Schemas } from "../../api/client";
import { Corners, STRIP, StripFrame, stripScale } from "../../plots/StripFrame";
import type { Lane } from "./lanes";
import { LaneFigures, LaneTraces, type Room } from "./LaneTraces";
import { nowAt } from "./now";

const NARROW = new Set(["air", "gallery", "bottle"]);

/** The lap strip of Pressure: air share, the gallery, the bottle; dips numbered, longest first. */
export function PressureStrip({
  lap,
  stage,
  lanes,
  time,
  onTime,
}: {
  lap: Schemas["LapForecastOut"];
  stage: PressureStage;
  lanes: readonly Lane[];
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  const shown = lanes.filter(({ key }) => NARROW.has(key));
  const { index } = nowAt(stage, time);
  return (
    <StripFrame
      lap={lap}
      time={time}
      faint={false}
      words="Air share, gallery pressure and bottle"
      onTime={onTime}
    >
      {(width) => {
        const x = stripScale(lap.duration_s, width);
        const room: Room = {
          top: STRIP.top,
          bottom: STRIP.bottom,
          left: STRIP.left,
          right: width - STRIP.right,
        };
        return (
          <>
            <Corners lap={lap} x={x} />
            <LaneTraces stage={stage} lanes={shown} room={room} x={x} />
            <Ranks stage={stage} x={x} />
            <LaneFigures lanes={shown} room={room} index={index} x={x(time)} />
          </>
        );
      }}
    </StripFrame>
  );
}

function Ranks({ stage, x }: { stage: PressureStage; x: (time: number) => number }): ReactElement {
  const taken: number[] = [];
  return (
    <>
      {stage.pressure.dips.map((dip) => {
        const at = x(dip.lowest_at_s);
        if (taken.some((other) => Math.abs(other - at) < 15)) return null;
        taken.push(at);
        return (
          <g key={dip.rank}>
            <path d={`M${at} 20l8 14h-16z`} fill="var(--bad)" />
            <text
              x={at}
              y={32.5}
              fontSize="12"
              fontWeight="700"
              textAnchor="middle"
              fill="var(--panel)"
            >
              {dip.rank < 10 ? dip.rank : ""}
            </text>
          </g>
        );
      })}
    </>
  );
}
