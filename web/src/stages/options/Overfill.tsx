import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useOverfill } from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs, volumeAs } from "../../parts/units";

/** Oil above the mark as a measured trial: pour by pour, what to look at, where to stop. */
export function Overfill(): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const [open, setOpen] = useState(false);
  const plan = useOverfill(build, open);
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  return (
    <details
      className="mt-2 border-t border-hair pt-1"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="py-0.5 text-[14px]">A measured trial of more oil</summary>
      {plan.error && (
        <p role="alert" className="text-[14px] text-bad">
          {wordsOf(plan.error)}
        </p>
      )}
      {plan.isFetching && <p className="text-[14px] text-ink-2">Working it out…</p>}
      {plan.data && (
        <>
          <p className="text-[14px]">
            {litres(plan.data.step_l)} at a time over the mark, {litres(plan.data.mark_l)}. Common
            practice; others never do, and go to gates at once.
          </p>
          <table className="w-full text-[14px]">
            <thead>
              <tr className="text-left text-[13px] text-ink-2">
                <th className="font-normal">in all</th>
                <th className="font-normal">crank clear by</th>
                <th className="font-normal">in the crank</th>
                <th className="font-normal">dry, settled</th>
              </tr>
            </thead>
            <tbody>
              {plan.data.steps.map((step) => {
                const gap = lengthAs(units, system, step.crank_mm);
                return (
                  <tr key={step.total_l} className="border-b border-hair font-figure">
                    <td className="py-0.5">
                      <span className="flex items-center gap-1.5">
                        <Mark state={step.stop ? "bad" : "good"} size={14} />
                        {litres(step.total_l)}
                      </span>
                    </td>
                    <td>{step.stop ? `stop: ${step.stop}` : `${gap.figure} ${gap.unit}`}</td>
                    <td>{step.stop ? "" : `${step.touches_s.toFixed(1)} s`}</td>
                    <td>{step.stop ? "" : `${step.dry_s.toFixed(1)} s`}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <ul className="list-disc pl-5 text-[14px]">
            {plan.data.look_at.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </>
      )}
    </details>
  );
}
