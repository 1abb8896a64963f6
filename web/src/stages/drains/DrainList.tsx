import type { ReactElement } from "react";
import type { Drain, DrainsStage } from "../../api/drains";
import { DipRow, whereOf } from "../../parts/DipRow";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { flowAs, lengthAs, temperatureWords } from "../../parts/units";
import { nowAt } from "./now";
import { flowIn } from "./sentence";

/** With whom a drain runs together; nothing where it runs alone. */
function fallsTo(drain: Drain): string {
  if (drain.junction) return `falls to ${drain.junction}, which a stage empties`;
  return drain.shared_with.length > 0 ? `together with ${drain.shared_with.join(", ")}` : "";
}

/** Drains that need not fall, as each has a stage of its own: what comes of what it sweeps. */
export function PulledList({ stage }: { stage: DrainsStage }): ReactElement | null {
  const shown = useSettings();
  if (stage.pulled.length === 0) return null;
  return (
    <section aria-labelledby="pulled-list" className="border-b border-ink px-4 pt-2 pb-3">
      <h2 id="pulled-list" className="font-figure text-[18px] font-semibold">
        Pulled by a stage of their own
      </h2>
      {stage.pulled.map((each) => {
        const at = Math.max(0, each.rpm.indexOf(each.share_at_rpm));
        return (
          <div key={each.run} className="border-t border-hair py-1.5 text-[14px]">
            <p className="flex items-start gap-2">
              <Mark state={each.state} />
              <span className="min-w-0 flex-1 font-figure text-[15px]">{each.name}</span>
              <span className="shrink-0 font-figure text-[16px] font-semibold">
                {(each.share * 100).toFixed(0)}
                <span className="text-[13px] font-medium"> % of its sweep</span>
              </span>
            </p>
            <p className="text-[13px] text-ink-2">
              At {each.share_at_rpm.toFixed(0)} rpm, where it is tightest,{" "}
              {flowIn(shown, each.comes_l_min[at] ?? 0)} come, foam and all, and {each.stage} sweeps{" "}
              {flowIn(shown, each.sweeps_l_min[at] ?? 0)}. Its line takes{" "}
              {each.suction_kpa.toFixed(1)} kPa at the most.
            </p>
          </div>
        );
      })}
    </section>
  );
}

/** All drains, worst first: the head each has and needs where it is worst. */
export function DrainList({
  stage,
  shown,
  onShow,
}: {
  stage: DrainsStage;
  shown: string;
  onShow: (drain: Drain) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const mm = (value: number): string => lengthAs(units, system, value).figure;
  const { unit } = lengthAs(units, system, 1);
  return (
    <section aria-labelledby="drain-list" className="border-b border-ink pb-2">
      <div className="flex items-baseline justify-between gap-2 px-4 pt-2 pb-1">
        <h2 id="drain-list" className="font-figure text-[18px] font-semibold">
          Drains, worst first
        </h2>
        <span className="font-figure text-[13px] text-ink-2">there is, needed</span>
      </div>
      <ol>
        {stage.drains.map((drain) => {
          const on = drain.run === shown;
          const worst = nowAt(stage, drain, drain.spare_at_s);
          return (
            <li key={drain.run} className="border-t border-hair">
              <button
                type="button"
                aria-current={on || undefined}
                onClick={() => onShow(drain)}
                className={`flex min-h-[37px] w-full items-center gap-2 px-4 py-1 text-left font-figure focus-visible:outline-offset-[-3px] ${
                  on ? "bg-ink text-paper" : ""
                }`}
              >
                <Mark state={drain.state} onInk={on} />
                <span className="min-w-0 flex-1 text-[15px] leading-[18px]">
                  <span className="block truncate">
                    {drain.name}, {drain.size}
                  </span>
                  {fallsTo(drain) && (
                    <span className={`block text-[13px] ${on ? "" : "text-ink-2"}`}>
                      {fallsTo(drain)}
                    </span>
                  )}
                </span>
                <span className="shrink-0 text-[16px] font-semibold">
                  {mm(worst.thereMm)}, {mm(worst.neededMm)}
                  <span className="text-[13px] font-medium"> {unit}</span>
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      {stage.unplaced.map((each) => (
        <p key={each.run} className="flex gap-2 border-t border-hair px-4 py-2 text-[14px]">
          <Mark state="nothing" />
          <span className="min-w-0 flex-1">
            {each.name}: tell {each.wants.join(", and ")}.
          </span>
        </p>
      ))}
    </section>
  );
}

/** The drain's back-ups over the lap, longest first; each leads to its moment. */
export function BackUps({
  drain,
  time,
  onTime,
}: {
  drain: Drain;
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const mm = (value: number): string => lengthAs(units, system, value).figure;
  const { unit } = lengthAs(units, system, 1);
  const flow = (value: number): string => flowAs(units, system, value).figure;
  const flowUnit = flowAs(units, system, 1).unit;
  const feed = Math.max(...drain.feed_l_min);
  const cold = temperatureWords(units, system, drain.cold.temperature_c);
  return (
    <section aria-labelledby="back-ups" className="border-b border-ink pb-2">
      <div className="flex items-baseline justify-between gap-2 px-4 pt-2 pb-1">
        <h2 id="back-ups" className="font-figure text-[18px] font-semibold">
          Back-ups
        </h2>
        <span className="font-figure text-[13px] text-ink-2">
          {drain.back_ups.length > 0
            ? `${drain.flooded_s.toFixed(1)} s a lap`
            : "none over the lap"}
        </span>
      </div>
      <ol>
        {drain.back_ups.map((each) => (
          <DipRow
            key={each.rank}
            on={each.start_s <= time && time <= each.end_s}
            seconds={each.lasts_s}
            where={whereOf(each)}
            said={`${mm(each.short_mm)} ${unit} short`}
            onClick={() => onTime(each.worst_at_s)}
          />
        ))}
      </ol>
      <p className="px-4 pt-1 text-[13px] text-ink-2">
        {drain.floods_in_s !== null &&
          `At the lap's worst its housing is full ${drain.floods_in_s.toFixed(1)} s after the drain stops. `}
        {`Standing it carries ${flow(drain.carries_l_min)} ${flowUnit}; its feed brings ${flow(feed)} at the most, and swells to ${flow(feed / (1 - drain.foam))} with its foam. `}
        {`Cold, at ${cold}, it is fed ${flow(drain.cold.idle_l_min)} idling and ${flow(drain.cold.revved_l_min)} revved, and carries ${flow(drain.cold.carries_l_min)}.`}
      </p>
    </section>
  );
}
