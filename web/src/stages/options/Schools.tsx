import type { ReactElement } from "react";
import type { Options } from "../../api/options";
import { InUnits } from "../../parts/InUnits";

/** What the trade disagrees on: both ways with their own figures, the default first. */
export function Schools({ schools }: { schools: Options["schools"] }): ReactElement | null {
  if (schools.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="py-1 text-[14px]">
        Where the trade disagrees, both ways in figures
      </summary>
      {schools.map((each) => (
        <section key={each.question} className="border-b border-hair py-2">
          <h3 className="font-figure text-[16px] font-semibold">{each.question}</h3>
          <p className="text-[14px] text-ink-2">
            <InUnits words={each.why} />
          </p>
          <dl className="mt-1 grid gap-x-4 gap-y-1 text-[14px] sm:grid-cols-2">
            <div>
              <dt className="font-semibold">Default: {each.default_title}</dt>
              <dd>{each.default_words}</dd>
            </div>
            <div>
              <dt className="font-semibold">Other: {each.other_title}</dt>
              <dd>{each.other_words}</dd>
            </div>
          </dl>
        </section>
      ))}
    </details>
  );
}
