import type { ReactElement } from "react";
import type { Moving } from "../api/runs";
import { DipRow, whereOf } from "../parts/DipRow";
import { useSettings } from "../parts/settings";
import { pressureAs } from "../parts/units";

type Pressure = NonNullable<Moving["pressure"]>;

/** Stretches with too little pressure in the gallery, longest first; or how much is left. */
export function PressureDips({
  pressure,
  time,
  onTime,
  holds = true,
}: {
  pressure: Pressure;
  /** Of the moment shown [s]. */
  time: number;
  onTime: (time: number) => void;
  /** Without a dip it may be said to hold: it is the build's own run. */
  holds?: boolean;
}): ReactElement {
  const { system, units } = useSettings();
  const bar = (value: number): string => pressureAs(units, system, value).figure;
  const { unit } = pressureAs(units, system, 1);
  const [low, high] = (pressure.band_bar ?? [null, null]).map((each) =>
    each == null ? null : bar(each),
  );
  return (
    <section aria-labelledby="pressure-dips" className="border-b border-ink pb-2">
      <div className="flex items-baseline justify-between gap-2 px-4 pt-2 pb-1">
        <h2 id="pressure-dips" className="font-figure text-[18px] font-semibold">
          Pressure dips
        </h2>
        <span className="font-figure text-[13px] text-ink-2">
          {pressure.dips.length > 0
            ? `${pressure.under_s.toFixed(1)} s a lap`
            : holds
              ? "none: the gallery holds"
              : "none so far"}
        </span>
      </div>
      <ol>
        {pressure.dips.map((dip) => (
          <DipRow
            key={dip.rank}
            on={dip.start_s <= time && time <= dip.end_s}
            seconds={dip.lasts_s}
            where={whereOf(dip)}
            said={`${bar(dip.lowest_bar)} of ${bar(dip.usual_bar)} ${unit}`}
            onClick={() => onTime(dip.lowest_at_s)}
          />
        ))}
      </ol>
      <p className="px-4 pt-1 text-[13px] text-ink-2">
        {pressure.dips.length === 0 &&
          `At the least ${bar(pressure.lowest_bar)} ${unit}, at ${pressure.lowest_at_s.toFixed(1)} s, where ${bar(pressure.usual_bar)} is usual and under ${bar(pressure.wanted_bar)} were a dip. `}
        {low !== null &&
          low !== high &&
          `By how far the pump slips on gas the lowest is ${low} to ${high} ${unit}: a guess. `}
        Under 10 psi for every 1000 rpm, a rule of thumb: {pressure.under_line_s.toFixed(1)} s.
      </p>
    </section>
  );
}
