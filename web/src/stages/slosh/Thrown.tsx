import type { ReactElement } from "react";
import type { Latest, Moving } from "../../api/runs";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { aboutFlow, powerAs, volumeAs } from "../../parts/units";

/** What the crank throws of the oil it reaches: first beside another pan, then as our estimate. */
export function Thrown({
  windage,
  beside,
}: {
  windage: NonNullable<Moving["windage"]>;
  beside: Latest["thrown"];
}): ReactElement {
  const { system, units } = useSettings();
  const reached = volumeAs(units, system, windage.reached_l, 1);
  const thrown = aboutFlow(units, system, windage.thrown_l_min.likely);
  const low = powerAs(units, system, windage.power_kw.low);
  const high = powerAs(units, system, windage.power_kw.high);
  return (
    <section aria-labelledby="thrown" className="border-t border-ink px-4 pt-2 pb-3">
      <h2 id="thrown" className="font-figure text-[18px] font-semibold">
        Oil thrown by the crank
      </h2>
      <p className="text-[14px] first-letter:uppercase" data-beside>
        {beside || "Nothing to lay beside it: run another state or build over this lap."}
      </p>
      <p className="font-figure text-[14px]">
        {reached.figure} {reached.unit} in its sweep on average, {thrown} thrown, {low.figure} to{" "}
        {high.figure} {high.unit}
      </p>
      <p className="flex items-start gap-2 pt-1 text-[13px] text-ink-2">
        <Mark state="caution" size={16} />
        <span>
          Our own estimate, checked against no measurement: good for comparing pans. It says nothing
          of dry time, foam or what a scraper saves, and is not in the verdict.
        </span>
      </p>
    </section>
  );
}
