import { memo, useMemo, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import { AirBar } from "../drawing/AirBar";
import { Corners, Ranks, STRIP, StripFrame, stripScale } from "./StripFrame";
import { alignedTimes, ticks, tracePath } from "./traces";

type Lap = Schemas["LapForecastOut"];

const { left: LEFT, right: RIGHT, top: G_TOP, bottom: COVER_BOTTOM } = STRIP;
const G_BOTTOM = 70;
const COVER_TOP = 74;

/** From when to when [s]. */
export type Stretches = readonly (readonly [number, number])[];

interface Scale {
  x: (time: number) => number;
  g: (value: number) => number;
  cover: (value: number) => number;
}

function scaleOf(lap: Lap, width: number): Scale {
  const { samples, duration_s: duration } = lap;
  const peak = Math.max(0.5, ...samples.side_g.map(Math.abs), ...samples.fore_g.map(Math.abs));
  const deepest = Math.max(10, ...samples.cover_mm);
  const barest = Math.min(-10, ...samples.cover_mm);
  return {
    x: stripScale(duration, width),
    g: (value) => (G_TOP + G_BOTTOM) / 2 - (value / peak) * ((G_BOTTOM - G_TOP) / 2 - 2),
    cover: (value) =>
      COVER_BOTTOM - ((value - barest) / (deepest - barest)) * (COVER_BOTTOM - COVER_TOP),
  };
}

/** Another lap laid over the first, at the same places of the track: thin lines, named. */
function Over({ lap, other, scale }: { lap: Lap; other: Lap; scale: Scale }): ReactElement {
  const times = alignedTimes(lap.samples, other.samples);
  const { x, g, cover } = scale;
  return (
    <g fill="none" strokeWidth="1" data-over>
      <path d={tracePath(times, other.samples.side_g, x, g)} stroke="var(--line)" />
      <path d={tracePath(times, other.samples.cover_mm, x, cover)} stroke="var(--oil-2)" />
    </g>
  );
}

/** Stretches in which the crank's sweep reaches oil: a bar under the cover. */
function CrankBars({ stretches, scale }: { stretches: Stretches; scale: Scale }): ReactElement {
  return (
    <g data-crank>
      {stretches.map(([from, to]) => (
        <rect
          key={from}
          x={scale.x(from)}
          y={COVER_BOTTOM - 1}
          width={Math.max(1.5, scale.x(to) - scale.x(from))}
          height="5"
          fill="var(--ink-2)"
        />
      ))}
      <text
        x={LEFT - 10}
        y={COVER_BOTTOM + 4}
        fontSize="11"
        fontWeight="600"
        textAnchor="end"
        fill="var(--ink-2)"
      >
        crank in oil
      </text>
    </g>
  );
}

/** All that stands still while the moment moves. */
const Traces = memo(function Traces({
  lap,
  over,
  crank,
  width,
  scale,
}: {
  lap: Lap;
  over: Lap | null;
  crank: Stretches;
  width: number;
  scale: Scale;
}): ReactElement {
  const { samples, duration_s: duration } = lap;
  const { x } = scale;
  return (
    <>
      <Corners lap={lap} x={x} />
      <path d={`M${LEFT} ${scale.g(0)}H${width - RIGHT}`} stroke="var(--hair)" />
      {over && <Over lap={lap} other={over} scale={scale} />}
      <path
        d={tracePath(samples.time_s, samples.fore_g, x, scale.g)}
        fill="none"
        stroke="var(--ink-2)"
        strokeDasharray="1.5 2.5"
      />
      <path
        d={tracePath(samples.time_s, samples.side_g, x, scale.g)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {lap.dips.map((dip) => (
        <AirBar
          key={dip.rank}
          x={x(dip.start_s)}
          y={COVER_TOP}
          width={Math.max(2, x(dip.end_s) - x(dip.start_s))}
          height={COVER_BOTTOM - COVER_TOP}
          data-dip={dip.rank}
        />
      ))}
      <path
        d={tracePath(samples.time_s, samples.cover_mm, x, scale.cover)}
        fill="none"
        stroke="var(--oil-deep)"
        strokeWidth="2"
      />
      <path
        d={`M${LEFT} ${scale.cover(0)}H${width - RIGHT}`}
        stroke="var(--ink-2)"
        strokeDasharray="2 4"
      />
      <path d={`M${LEFT} ${COVER_BOTTOM + 2}H${width - RIGHT}`} stroke="var(--ink)" />
      {ticks(duration, width / 90).map((at) => (
        <path key={at} d={`M${x(at)} ${COVER_BOTTOM + 2}v4`} stroke="var(--ink)" />
      ))}
      <g fontSize="13" fontWeight="600" textAnchor="end">
        <text x={LEFT - 10} y={36} fill="var(--ink)">
          side g
        </text>
        <path d={`M${LEFT - 50} 40H${LEFT - 10}`} stroke="var(--ink)" strokeWidth="1.5" />
        <text x={LEFT - 10} y={58} fill="var(--ink-2)" fontWeight="500">
          fore g
        </text>
        <path d={`M${LEFT - 50} 62H${LEFT - 10}`} stroke="var(--ink-2)" strokeDasharray="1.5 2.5" />
        <text x={LEFT - 10} y={92} fill="var(--oil-deep)">
          cover
        </text>
        <path d={`M${LEFT - 50} 96H${LEFT - 10}`} stroke="var(--oil-deep)" strokeWidth="2" />
      </g>
      {crank.length > 0 && <CrankBars stretches={crank} scale={scale} />}
      {over && (
        <text
          x={width - RIGHT}
          y={72}
          fontSize="12"
          textAnchor="end"
          fill="var(--ink-2)"
          stroke="var(--panel)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          thin: {over.lap_name}
        </text>
      )}
      <Ranks
        dips={lap.dips.map(({ rank, worst_s: at }) => ({ rank, at }))}
        x={x}
        y={G_BOTTOM - 9}
      />
    </>
  );
});

/** A lap's traces laid out over a width. */
function LapTraces(drawn: {
  lap: Lap;
  over: Lap | null;
  crank: Stretches;
  width: number;
}): ReactElement {
  const { lap, width } = drawn;
  const scale = useMemo(() => scaleOf(lap, width), [lap, width]);
  return <Traces {...drawn} scale={scale} />;
}

/** g in ink and cover in amber over the lap, dips as air bars. */
export function LapStrip({
  lap,
  over,
  crank,
  time,
  faint,
  onTime,
}: {
  lap: Lap;
  over: Lap | null;
  /** When the crank's sweep reaches oil. */
  crank: Stretches;
  time: number;
  /** The picture shows something else than this moment. */
  faint: boolean;
  onTime: (time: number) => void;
}): ReactElement {
  return (
    <StripFrame
      lap={lap}
      time={time}
      faint={faint}
      words="Side and fore g and cover"
      onTime={onTime}
    >
      {(width) => <LapTraces lap={lap} over={over} crank={crank} width={width} />}
    </StripFrame>
  );
}
