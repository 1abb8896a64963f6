import type { PointerEvent, ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { useSize } from "../../parts/size";
import { useDrag } from "../../parts/useDrag";
import { ticks } from "../../plots/traces";
import type { Lane } from "./lanes";
import { LaneFigures, LaneTraces, type Room } from "./LaneTraces";
import { nowAt } from "./now";

/** The lap's traces large, with a legend; the moment follows a pressed pointer. */
export function Traces({
  stage,
  lanes,
  time,
  onTime,
}: {
  stage: PressureStage;
  lanes: readonly Lane[];
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  const [box, { width, height }] = useSize();
  const tall = Math.max(height, 320);
  const room: Room = { top: 8, bottom: tall - 48, left: 76, right: width - 20 };
  const { duration_s: duration } = stage;
  const wide = Math.max(1, room.right - room.left);
  const x = (at: number): number => room.left + (at / duration) * wide;
  const drag = useDrag((event: PointerEvent<HTMLDivElement>) => {
    const left = event.currentTarget.getBoundingClientRect().left;
    const share = (event.clientX - left - room.left) / wide;
    onTime(Math.min(duration, Math.max(0, share * duration)));
  });
  const now = nowAt(stage, time);
  return (
    <div ref={box} className="min-h-[340px] flex-1 touch-pan-y select-none" {...drag}>
      {width > 0 && (
        <svg
          width={width}
          height={tall}
          role="img"
          aria-label="The lap: engine speed, air share, gallery pressure and oil, over time"
          className="block"
        >
          <LaneTraces stage={stage} lanes={lanes} room={room} x={x} />
          <path
            d={`M${x(time)} ${room.top}V${room.bottom}`}
            stroke="var(--ink)"
            strokeWidth="2"
            data-screen-only
          />
          <LaneFigures lanes={lanes} room={room} index={now.index} x={x(time)} />
          {ticks(duration, wide / 90).map((at) => (
            <g key={at}>
              <path d={`M${x(at)} ${room.bottom}v4`} stroke="var(--ink)" />
              <text
                x={x(at)}
                y={room.bottom + 17}
                fontSize="12"
                textAnchor="middle"
                fill="var(--ink-2)"
              >
                {at === 0 ? "0 s" : at}
              </text>
            </g>
          ))}
          <Legend y={tall - 10} x={room.left} measured={stage.samples.measured_bar !== null} />
        </svg>
      )}
    </div>
  );
}

function Legend({ x, y, measured }: { x: number; y: number; measured: boolean }): ReactElement {
  const entries = [
    { words: "forecast", stroke: "var(--oil-deep)", width: 2, dash: undefined },
    { words: "usual there", stroke: "var(--ink-2)", width: 1, dash: "5 3" },
    { words: "under it: a dip", stroke: "var(--bad)", width: 1.25, dash: "1.5 3" },
    ...(measured
      ? [{ words: "measured", stroke: "var(--ink)", width: 1.75, dash: undefined }]
      : []),
  ];
  return (
    <g fontSize="12.5" className="font-figure">
      {entries.map(({ words, stroke, width, dash }, index) => (
        <g key={words} transform={`translate(${x + index * 104 - 60} ${y})`}>
          <path d="M0 -4h18" stroke={stroke} strokeWidth={width} strokeDasharray={dash} />
          <text x={22} fill="var(--ink-2)">
            {words}
          </text>
        </g>
      ))}
    </g>
  );
}
