import { useMemo, type ReactElement } from "react";
import type { Schemas } from "../../api/client";
import type { Drain, DrainsStage } from "../../api/drains";
import { useSettings } from "../../parts/settings";
import { gasPressureAs, lengthAs } from "../../parts/units";
import { Corners, Ranks, STRIP, StripFrame, stripScale } from "../../plots/StripFrame";
import { nearestIndex, tracePath } from "../../plots/traces";

type Lap = Schemas["LapForecastOut"];

const LANES = { spare: [STRIP.top, 68], housing: [72, 88], gas: [92, STRIP.bottom] } as const;

const scaleIn =
  ([top, bottom]: readonly [number, number], low: number, high: number) =>
  (value: number): number =>
    bottom -
    ((Math.min(Math.max(value, low), high) - low) / Math.max(1e-6, high - low)) * (bottom - top);

function Label({ y, ink, children }: { y: number; ink: string; children: string }): ReactElement {
  return (
    <text x={STRIP.left - 6} y={y} fontSize="12.5" fontWeight="600" textAnchor="end" fill={ink}>
      {children}
    </text>
  );
}

/** What the strip draws, put to scale. */
function lanesOf(stage: DrainsStage, drain: Drain) {
  const { samples } = drain;
  const left = samples.there_mm.map((there, at) => there - (samples.needed_mm[at] ?? 0));
  const { case_mbar: gas } = stage.breathing;
  return {
    left,
    gas,
    spare: scaleIn(LANES.spare, Math.min(-10, ...left), Math.max(10, ...left)),
    housing: scaleIn(LANES.housing, 0, Math.max(5, ...samples.held_ml)),
    pressure: scaleIn(LANES.gas, 0, Math.max(1, ...gas)),
  };
}

type Lanes = ReturnType<typeof lanesOf>;

function Traces({
  stage,
  drain,
  lanes,
  x,
  right,
}: {
  stage: DrainsStage;
  drain: Drain;
  lanes: Lanes;
  x: (time: number) => number;
  right: number;
}): ReactElement {
  const { time_s: times } = stage;
  const { left, gas, spare, housing, pressure } = lanes;
  const ends = `L${x(times.at(-1) ?? 0)} ${housing(0)}L${x(0)} ${housing(0)}Z`;
  return (
    <>
      {drain.back_ups.map((each) => (
        <rect
          key={each.rank}
          x={x(each.start_s)}
          y={STRIP.top}
          width={Math.max(2, x(each.end_s) - x(each.start_s))}
          height={STRIP.bottom - STRIP.top}
          fill="var(--bad-wash)"
          stroke="var(--bad)"
          data-back-up={each.rank}
        />
      ))}
      <path d={`M${STRIP.left} ${spare(0)}H${right}`} stroke="var(--bad)" strokeDasharray="4 3" />
      <path
        d={tracePath(times, left, x, spare)}
        fill="none"
        stroke="var(--oil-deep)"
        strokeWidth="1.75"
      />
      <path
        d={tracePath(times, drain.samples.held_ml, x, housing) + ends}
        fill="var(--oil)"
        stroke="var(--oil-deep)"
        strokeWidth="0.9"
      />
      <path
        d={tracePath(times, gas, x, pressure)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.25"
      />
      <Label y={spare(0) + 4} ink="var(--oil-deep)">
        to spare
      </Label>
      <Label y={84} ink="var(--oil-deep)">
        housing
      </Label>
      <Label y={STRIP.bottom} ink="var(--ink)">
        gas
      </Label>
    </>
  );
}

/** What each lane has at the moment. */
function Figures({
  stage,
  drain,
  lanes,
  time,
  x,
  width,
}: {
  stage: DrainsStage;
  drain: Drain;
  lanes: Lanes;
  time: number;
  x: number;
  width: number;
}): ReactElement {
  const { system, units } = useSettings();
  const index = nearestIndex(stage.time_s, time);
  const isRight = x > width - 120;
  const spare = lengthAs(units, system, lanes.left[index] ?? 0);
  const gas = gasPressureAs(units, system, lanes.gas[index] ?? 0);
  const rows: readonly (readonly [number, string])[] = [
    [LANES.spare[0] + 16, `${spare.figure.replace(/^-(0\.?0*)$/, "$1")} ${spare.unit}`],
    [LANES.housing[1], `${(drain.samples.held_ml[index] ?? 0).toFixed(0)} ml`],
    [STRIP.bottom, `${gas.figure} ${gas.unit}`],
  ];
  return (
    <>
      {rows.map(([y, words]) => (
        <text
          key={y}
          x={x + (isRight ? -11 : 11)}
          y={y}
          fontSize="13"
          fontWeight="600"
          textAnchor={isRight ? "end" : "start"}
          fill="var(--ink)"
          stroke="var(--panel)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {words}
        </text>
      ))}
    </>
  );
}

/** The lap strip of Drains: head to spare, oil in the housing, the crankcase's pressure. */
export function DrainStrip({
  lap,
  stage,
  drain,
  time,
  isPad,
  onTime,
}: {
  lap: Lap;
  stage: DrainsStage;
  drain: Drain;
  time: number;
  isPad: boolean;
  onTime: (time: number) => void;
}): ReactElement {
  const lanes = useMemo(() => lanesOf(stage, drain), [stage, drain]);
  return (
    <StripFrame
      lap={lap}
      time={time}
      faint={isPad}
      words="Head to spare, oil in the housing and the crankcase's pressure"
      onTime={onTime}
    >
      {(width) => {
        const x = stripScale(lap.duration_s, width);
        return (
          <g className="font-figure">
            <Corners lap={lap} x={x} />
            <Traces stage={stage} drain={drain} lanes={lanes} x={x} right={width - STRIP.right} />
            <Ranks
              dips={drain.back_ups.map(({ rank, worst_at_s: at }) => ({ rank, at }))}
              x={x}
              y={STRIP.top}
            />
            <Figures
              stage={stage}
              drain={drain}
              lanes={lanes}
              time={time}
              x={x(time)}
              width={width}
            />
          </g>
        );
      }}
    </StripFrame>
  );
}
