import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import type { Schemas } from "../../api/client";
import { Corners, Ranks, STRIP, StripFrame, stripScale } from "../../plots/StripFrame";
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
            <Ranks
              dips={stage.pressure.dips.map(({ rank, lowest_at_s: at }) => ({ rank, at }))}
              x={x}
              y={STRIP.top}
            />
            <LaneFigures lanes={shown} room={room} index={index} x={x(time)} />
          </>
        );
      }}
    </StripFrame>
  );
}
