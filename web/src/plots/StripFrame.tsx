import { type KeyboardEvent, type PointerEvent, type ReactElement, type ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useSize } from "../parts/size";
import { useDrag } from "../parts/useDrag";
import { ticks } from "./traces";

type Lap = Schemas["LapForecastOut"];

/** The strip's room [px]: its height, its margins, and the traces' own top and bottom. */
export const STRIP = { height: 128, left: 64, right: 22, top: 20, bottom: 106 } as const;

/** The lap's corners behind the traces, each with as much of its name as there is room for. */
export function Corners({ lap, x }: { lap: Lap; x: (time: number) => number }): ReactElement {
  return (
    <>
      {lap.corners.map((corner) => {
        const from = x(corner.start_s);
        const to = x(corner.end_s);
        const long = corner.name ?? `${corner.number} ${corner.hand}`;
        const label =
          to - from > Math.max(36, 7 * long.length)
            ? long
            : to - from > 22
              ? `${corner.number} ${corner.hand === "left" ? "L" : "R"}`
              : to - from > 10
                ? `${corner.number}`
                : "";
        return (
          <g key={corner.number}>
            <rect
              x={from}
              y={STRIP.top}
              width={to - from}
              height={STRIP.bottom - STRIP.top}
              fill="var(--hair)"
              opacity="0.35"
            />
            <text
              x={(from + to) / 2}
              y={14}
              fontSize="13"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--ink)"
            >
              {label}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** Dips by their ranks where they are worst; one that another lies over is left out. */
export function Ranks({
  dips,
  x,
  y,
}: {
  dips: readonly { rank: number; at: number }[];
  x: (time: number) => number;
  /** Of the marks' tops [px]. */
  y: number;
}): ReactElement {
  const taken: number[] = [];
  return (
    <>
      {dips.map(({ rank, at: time }) => {
        const at = x(time);
        if (taken.some((other) => Math.abs(other - at) < 15)) return null;
        taken.push(at);
        return (
          <g key={rank}>
            <path d={`M${at} ${y}l8 14h-16z`} fill="var(--bad)" />
            <text
              x={at}
              y={y + 12.5}
              fontSize="12"
              fontWeight="700"
              textAnchor="middle"
              fill="var(--panel)"
            >
              {rank < 10 ? rank : ""}
            </text>
          </g>
        );
      })}
    </>
  );
}

const FLAG = 48; // [px] the time flag is wide
const KEY_STEPS: Record<string, number> = {
  ArrowRight: 0.1,
  ArrowLeft: -0.1,
  PageUp: 1,
  PageDown: -1,
};

/** From a time of the lap [s] to its place [px]. */
export const stripScale =
  (duration: number, width: number) =>
  (time: number): number =>
    STRIP.left + (time / duration) * Math.max(1, width - STRIP.left - STRIP.right);

/** Traces over the lap with the moment's flag; drag, click or use arrow keys. */
export function StripFrame({
  lap,
  time,
  faint,
  words,
  onTime,
  children,
}: {
  lap: Lap;
  time: number;
  /** The picture shows something else than this moment. */
  faint: boolean;
  /** What the traces are of. */
  words: string;
  onTime: (time: number) => void;
  /** The traces, at a width [px]. */
  children: (width: number) => ReactNode;
}): ReactElement {
  const [box, { width }] = useSize();
  const { duration_s: duration } = lap;
  const x = stripScale(duration, width);

  function move(event: PointerEvent<HTMLDivElement>): void {
    const left = event.currentTarget.getBoundingClientRect().left;
    const share =
      (event.clientX - left - STRIP.left) / Math.max(1, width - STRIP.left - STRIP.right);
    onTime(Math.min(duration, Math.max(0, share * duration)));
  }

  const drag = useDrag(move);

  function onKey(event: KeyboardEvent<HTMLDivElement>): void {
    const step = KEY_STEPS[event.key];
    const to =
      event.key === "End" ? duration : event.key === "Home" ? 0 : step ? time + step : undefined;
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onTime(Math.min(duration, Math.max(0, to)));
  }

  const now = x(time);
  const flag = Math.min(Math.max(now, STRIP.left + 20), width - 26);
  return (
    <div
      ref={box}
      role="slider"
      tabIndex={0}
      aria-label="Moment of the lap"
      aria-valuemin={0}
      aria-valuemax={Math.round(duration * 10) / 10}
      aria-valuenow={Math.round(time * 10) / 10}
      aria-valuetext={`${time.toFixed(1)} seconds`}
      className="min-w-0 flex-1 touch-none select-none focus-visible:outline-offset-[-3px]"
      onKeyDown={onKey}
      {...drag}
    >
      {width > 0 && (
        <svg
          width={width}
          height={STRIP.height}
          className="block"
          role="img"
          aria-label={`${words} over ${lap.lap_name}`}
        >
          {children(width)}
          {ticks(duration, width / 90)
            .filter((at) => Math.abs(x(at) - flag) > FLAG / 2 + 12) // not under the flag
            .map((at) => (
              <text
                key={at}
                x={x(at)}
                y={STRIP.height - 6}
                fontSize="12"
                textAnchor="middle"
                fill="var(--ink-2)"
              >
                {at === 0 ? "0 s" : at}
              </text>
            ))}
          <g opacity={faint ? 0.55 : 1} data-screen-only>
            <path
              d={`M${now} ${STRIP.top - 6}V${STRIP.bottom + 6}`}
              stroke="var(--ink)"
              strokeWidth="2"
            />
            <rect
              x={flag - FLAG / 2}
              y={STRIP.bottom + 4}
              width={FLAG}
              height="18"
              fill="var(--ink)"
            />
            <text
              x={flag}
              y={STRIP.bottom + 17}
              fontSize="14"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--paper)"
            >
              {time.toFixed(1)} s
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}
