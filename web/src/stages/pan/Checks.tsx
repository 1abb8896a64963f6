import type { ReactElement } from "react";
import type { PanFigures } from "../../api/queries";
import { Mark } from "../../parts/Mark";
import { MendButton, type Mend } from "../../parts/MendButton";
import { InUnits } from "../../parts/InUnits";

/** What the rules of the trade say of this pan, each with its source. */
export function Checks({
  pan,
  onMend,
}: {
  pan: PanFigures;
  onMend: (mend: Mend) => void;
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
            <span
              className="min-w-0 flex-1 first-letter:uppercase"
              title={`${check.wanted} (${check.source})`}
            >
              <InUnits words={check.words} />.{" "}
              {check.mend && <MendButton mend={check.mend} onMend={onMend} />}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
