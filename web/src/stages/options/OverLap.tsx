import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useOverLap, type OptionRow, type OverLap as Laid, type Study } from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { AirBar } from "../../drawing/AirBar";
import { useSettings } from "../../parts/settings";
import { pressureAs, scaleOf } from "../../parts/units";
import { niceTicks, stretchesAbove, ticks } from "../../plots/traces";
import { stretchesRun, tracedPath } from "./overLap";

const WIDTH = 328;
const LEFT = 30;
const TOP = 4;
const BASE = 104;
const BAR = 9;
const ROWS = { own: BASE + 6, remedy: BASE + 6 + BAR + 4 };
const HEIGHT = ROWS.remedy + BAR + 20;
/** Dry stretches closer than this are one [s]. */
const JOINED = 0.15;

type Traced = Laid["own"];

function Dry({
  trace,
  above,
  x,
  y,
}: {
  trace: Traced;
  above: number;
  x: (time: number) => number;
  y: number;
}): ReactElement {
  return (
    <>
      {stretchesAbove(trace.time_s, trace.gas, above, JOINED).map(([from, to]) => (
        <AirBar key={from} x={x(from)} y={y} width={Math.max(2, x(to) - x(from))} height={BAR} />
      ))}
    </>
  );
}

/** Pressure of both over the lap, and under it when each mouth is dry. */
function Plot({ laid, letter }: { laid: Laid; letter: string }): ReactElement {
  const { system, units } = useSettings();
  const scale = scaleOf(units, "x_bar", system);
  const start = laid.own.time_s[0] ?? 0;
  const x = (time: number): number =>
    LEFT + ((time - start) / laid.duration_s) * (WIDTH - LEFT - 6);
  const most = Math.max(...laid.own.bar, ...laid.remedy.bar, 1);
  const y = (bar: number): number => BASE - (bar / most) * (BASE - TOP);
  const runs = stretchesRun(laid.remedy.time_s);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full font-figure"
      role="img"
      aria-label={`Gallery pressure over ${laid.lap}: as it is, and with ${letter}`}
    >
      <g fontSize="12" fill="var(--ink-2)">
        {niceTicks(scale * most, 4).map((shown) => {
          const at = y(shown / scale);
          return (
            <g key={shown}>
              <path d={`M${LEFT} ${at}H${WIDTH - 6}`} stroke="var(--hair)" />
              <text x={LEFT - 4} y={at + 4} textAnchor="end">
                {shown}
              </text>
            </g>
          );
        })}
        {ticks(laid.duration_s, 5).map((at) => (
          <text
            key={at}
            x={x(start + at)}
            y={HEIGHT - 4}
            textAnchor={at === 0 ? "start" : "middle"}
          >
            {at === 0 ? "0 s" : at}
          </text>
        ))}
        <text x={LEFT - 4} y={ROWS.own + BAR - 1} textAnchor="end">
          as is
        </text>
        <text x={LEFT - 4} y={ROWS.remedy + BAR - 1} textAnchor="end" fontWeight="600">
          {letter}
        </text>
      </g>
      <path
        d={tracedPath(laid.own.time_s, laid.own.bar, x, y)}
        fill="none"
        stroke="var(--oil-deep)"
        strokeWidth="1.5"
      />
      <path
        d={tracedPath(laid.remedy.time_s, laid.remedy.bar, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.3"
        strokeDasharray="4 2"
      />
      {runs.length > 1 &&
        runs.map(([from, to]) => (
          <path
            key={from}
            d={`M${x(from)} ${ROWS.remedy + BAR}H${x(to)}`}
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        ))}
      <Dry trace={laid.own} above={laid.dry_above} x={x} y={ROWS.own} />
      <Dry trace={laid.remedy} above={laid.dry_above} x={x} y={ROWS.remedy} />
    </svg>
  );
}

/** A remedy laid over the lap before it is applied. */
export function OverLap({ study, row }: { study: Study; row: OptionRow }): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const [open, setOpen] = useState(false);
  const { rung, starts, state } = row.standing;
  const laid = useOverLap(build, open ? row.key : null, `${study.id} ${rung} ${starts} ${state}`);
  return (
    <details
      className="mt-2 border-t border-hair pt-1"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="py-0.5 text-[14px]">Lay it over the lap</summary>
      {laid.error && <p className="text-[14px] text-ink-2">{wordsOf(laid.error)}</p>}
      {laid.isFetching && !laid.data && <p className="text-[14px] text-ink-2">Reading…</p>}
      {laid.data && (
        <>
          <p className="text-[13px] text-ink-2">
            Gallery pressure, {pressureAs(units, system, 0).unit}: amber as it is, dashed with{" "}
            {row.letter}; hatched below where the mouth is dry. {laid.data.lap},{" "}
            {laid.data.rung_words}
            {stretchesRun(laid.data.remedy.time_s).length > 1 &&
              "; between its windows nothing was run"}
            .
          </p>
          <Plot laid={laid.data} letter={row.letter} />
        </>
      )}
    </details>
  );
}
