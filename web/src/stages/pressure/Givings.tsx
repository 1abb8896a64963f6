import type { ReactElement } from "react";
import type { Trial } from "../../api/pressure";
import { useSettings } from "../../parts/settings";
import { volumeAs } from "../../parts/units";

/** What the bottle gives, stretch by stretch, how soon it is full again and what that pulls down. */
export function Givings({
  bottle,
  onTime,
}: {
  bottle: Trial["bottle"];
  onTime: (time: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const litres = (value: number): string => volumeAs(units, system, value).figure;
  if (bottle.givings.length === 0)
    return <p className="py-2 text-[14px] text-ink-2">Over this lap the bottle gives nothing.</p>;
  return (
    <table className="mt-1 w-full font-figure text-[14px]">
      <caption className="py-1 text-left text-[15px] font-semibold">
        Charge, dip by dip, {volumeAs(units, system, 1).unit}
      </caption>
      <thead>
        <tr className="text-left text-ink-2">
          <th className="font-medium">where</th>
          <th className="text-right font-medium">left</th>
          <th className="text-right font-medium">full in</th>
          <th className="text-right font-medium">sag</th>
        </tr>
      </thead>
      <tbody>
        {bottle.givings.map((each) => (
          <tr key={each.start_s} className="border-t border-hair">
            <td>
              <button
                type="button"
                className="text-left underline decoration-dotted underline-offset-4"
                onClick={() => onTime(each.end_s)}
              >
                {each.end_s.toFixed(1)} s, {each.place}
              </button>
            </td>
            <td className={`text-right ${each.ran_empty ? "text-bad" : ""}`}>
              {each.ran_empty ? "ran empty" : `${litres(each.after_l)} of ${litres(each.before_l)}`}
            </td>
            <td className="text-right">
              {each.refill_s === null ? "not before the next" : `${each.refill_s.toFixed(1)} s`}
            </td>
            <td className="text-right">
              {each.sag_share === null ? "" : `to ${(each.sag_share * 100).toFixed(0)} %`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
