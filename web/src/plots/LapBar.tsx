import { useRef, type ReactElement, type ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Button } from "../parts/Button";
import type { Table } from "../parts/csv";
import { ReadOut } from "../parts/ReadOut";
import { TrackLine } from "./TrackLine";
import { LapStrip, type Stretches } from "./LapStrip";
import { stepDip } from "./traces";
import { SPEEDS, type Play } from "../parts/usePlay";

type Lap = Schemas["LapForecastOut"];
type KnownLap = Schemas["LapOut"];

function Glyph({ path }: { path: string }): ReactElement {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
      <path d={path} fill="none" stroke="currentColor" strokeWidth="2" />
    </svg>
  );
}

/** The lap as figures: one row a sample. */
export function lapTable(lap: Lap): Table {
  const { samples } = lap;
  return {
    title: `${lap.lap_name}, sample by sample`,
    headings: [
      "time [s]",
      "speed [km/h]",
      "side g [g, + left]",
      "fore g [g, + forward]",
      "cover [mm]",
      "gas share",
    ],
    rows: samples.time_s.map((time, i) => [
      time,
      samples.speed_km_h[i] ?? 0,
      samples.side_g[i] ?? 0,
      samples.fore_g[i] ?? 0,
      samples.cover_mm[i] ?? 0,
      samples.gas_share[i] ?? 0,
    ]),
  };
}

const bare = "max-w-full truncate border-b border-dotted border-ink bg-panel font-figure";

/** The lap strip: laps to pick and to lay over, the track, playing and stepping, the traces. */
export function LapBar({
  lap,
  over,
  crank,
  laps,
  time,
  faint,
  play,
  onTime,
  onLap,
  onOver,
  dips = lap.dips,
  table = () => lapTable(lap),
  children,
}: {
  lap: Lap;
  over: Lap | null;
  crank: Stretches;
  laps: readonly KnownLap[];
  time: number;
  faint: boolean;
  play: Play;
  onTime: (time: number) => void;
  onLap: (id: number) => void;
  /** Another lap to lay over; without it none is offered. */
  onOver?: (id: number | null) => void;
  /** What is stepped through and marked; the mouth's dips where nothing else is told. */
  dips?: readonly { worst_s: number }[];
  table?: () => Table;
  /** Traces in the place of the usual ones. */
  children?: ReactNode;
}): ReactElement {
  const strip = useRef<HTMLDivElement>(null);
  const step = (way: 1 | -1, label: string, key: string): ReactElement => {
    const dip = stepDip(dips, time, way);
    return (
      <Button
        className="h-8 w-9 px-0"
        aria-label={label}
        title={`${label.toLowerCase()} (${key})`}
        disabled={dip === null}
        onClick={() => {
          if (dip) onTime(dip.worst_s);
        }}
      >
        <Glyph path={way === 1 ? "M4 1l6 6-6 6" : "M10 1 4 7l6 6"} />
      </Button>
    );
  };
  return (
    <section
      aria-label="Lap strip"
      className="flex flex-col border-t-2 border-ink bg-panel sm:h-[136px] sm:flex-row"
    >
      <div className="flex shrink-0 flex-col justify-between px-4 py-1.5 sm:w-[232px]">
        <div className="flex items-center justify-between gap-2">
          <select
            aria-label="Lap shown"
            value={lap.lap_id}
            onChange={(event) => onLap(Number(event.target.value))}
            className={`${bare} min-w-0 text-[14px] font-semibold`}
          >
            {laps.length === 0 && <option value={lap.lap_id}>{lap.lap_name}</option>}
            {laps.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
          <ReadOut name={lap.lap_name} table={table} drawing={strip} />
        </div>
        <div className="flex items-center justify-between gap-2 py-0.5">
          <TrackLine
            line={lap.line_m}
            marks={dips.map((dip) => dip.worst_s / lap.duration_s)}
            here={time / lap.duration_s}
            width={92}
            height={70}
          />
          <div className="grid grid-cols-2 gap-1">
            <Button
              look="main"
              className="h-8 w-9 px-0"
              aria-label={play.playing ? "Stop" : "Play the lap"}
              title={`${play.playing ? "stop" : "play the lap"} (space)`}
              onClick={play.toggle}
            >
              <svg width="12" height="14" viewBox="0 0 12 14" aria-hidden="true">
                <path
                  d={play.playing ? "M1 1h3v12H1zM8 1h3v12H8z" : "M1 0l11 7-11 7z"}
                  fill="currentColor"
                />
              </svg>
            </Button>
            <Button
              className="h-8 w-9 px-0 font-figure"
              aria-label={play.speed === 1 ? "1:1 playing speed, real" : "1:4 playing speed, slow"}
              title="playing speed (s)"
              onClick={() =>
                play.setSpeed(SPEEDS[(SPEEDS.indexOf(play.speed) + 1) % SPEEDS.length] ?? 1)
              }
            >
              {play.speed === 1 ? "1:1" : "1:4"}
            </Button>
            {step(-1, "Previous dip", ",")}
            {step(1, "Next dip", ".")}
          </div>
        </div>
        {onOver && (
          <label className="flex items-center gap-1 font-figure text-[13px] text-ink-2">
            <span className="shrink-0">over it</span>
            <select
              value={over?.lap_id ?? ""}
              onChange={(event) => onOver(event.target.value ? Number(event.target.value) : null)}
              className={`${bare} min-w-0 text-[13px] text-ink`}
            >
              <option value="">no other lap</option>
              {laps
                .filter((each) => each.id !== lap.lap_id)
                .map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.name}
                  </option>
                ))}
            </select>
          </label>
        )}
      </div>
      <div ref={strip} className="flex min-w-0 flex-1">
        {children ?? (
          <LapStrip lap={lap} over={over} crank={crank} time={time} faint={faint} onTime={onTime} />
        )}
      </div>
    </section>
  );
}
