import type { ReactElement } from "react";
import type { Moving } from "../api/runs";
import { Mark } from "../parts/Mark";
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
        {pressure.dips.map((dip) => {
          const on = dip.start_s <= time && time <= dip.end_s;
          return (
            <li key={dip.rank} className="border-t border-hair">
              <button
                type="button"
                aria-current={on || undefined}
                onClick={() => onTime(dip.lowest_at_s)}
                className={`flex h-[37px] w-full items-center gap-2 px-4 text-left font-figure focus-visible:outline-offset-[-3px] ${
                  on ? "bg-ink text-paper" : ""
                }`}
              >
                <Mark state="bad" onInk={on} />
                <span className="w-[52px] shrink-0 text-[18px] font-semibold">
                  {dip.lasts_s.toFixed(1)}
                  <span className="text-[13px] font-medium"> s</span>
                </span>
                <span className="min-w-0 flex-1 truncate text-[15px]">
                  {dip.place}
                  {dip.hand ? `, ${dip.hand}` : ""}
                </span>
                <span className="shrink-0 text-[15px]">
                  {bar(dip.lowest_bar)} of {bar(dip.usual_bar)} {unit}
                </span>
              </button>
            </li>
          );
        })}
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
