import type { ReactElement } from "react";
import type { PanFigures } from "../../api/queries";
import { Mark } from "../../parts/Mark";

type Check = PanFigures["checks"][number];

const FIXES: Record<NonNullable<Check["fix"]>, string> = {
  turn_gate: "Turn it round",
  carry_to_wall: "Carry it to the wall",
};

/** What the rules of the trade say of this pan, each with its source. */
export function Checks({
  pan,
  onMend,
}: {
  pan: PanFigures;
  onMend: (check: Check) => void;
}): ReactElement {
  const wrong = pan.checks.filter((check) => check.state !== "good").length;
  return (
    <section aria-labelledby="checks" className="border-t border-ink px-4 py-3">
      <div className="flex items-baseline justify-between">
        <h2 id="checks" className="font-figure text-[18px] font-semibold">
          Checks on this pan
        </h2>
        <span className="font-figure text-[13px] text-ink-2">
          {wrong === 0 ? "all sound" : `${wrong} of ${pan.checks.length} to look at`}
        </span>
      </div>
      <ul>
        {pan.checks.map((check) => (
          <li key={`${check.field}${check.words}`} className="flex gap-3 py-1.5 text-[14px]">
            <Mark state={check.state} />
            <span className="min-w-0 flex-1" title={`${check.wanted} (${check.source})`}>
              {check.words}.{" "}
              {check.fix && (
                <button
                  type="button"
                  className="font-semibold underline"
                  onClick={() => onMend(check)}
                >
                  {FIXES[check.fix]}
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
