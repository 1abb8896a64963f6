import type { ReactElement } from "react";
import type { Moving } from "../../api/runs";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";

/** Every mouth that draws from the pan, where there is more than one: each is told by its name. */
export function Mouths({ mouths }: { mouths: Moving["mouths"] }): ReactElement | null {
  const { system, units } = useSettings();
  if (mouths.length < 2) return null;
  return (
    <section aria-labelledby="mouths" className="border-t border-ink px-4 pt-2 pb-3">
      <h2 id="mouths" className="font-figure text-[18px] font-semibold">
        Mouths in this pan
      </h2>
      <ul>
        {mouths.map((mouth, at) => {
          const least = lengthAs(units, system, mouth.least_cover_mm);
          return (
            <li
              key={mouth.name}
              className="flex items-center gap-2 border-t border-hair py-1.5 text-[14px]"
            >
              <Mark state={mouth.dry_s === 0 ? "good" : at === 0 ? "bad" : "caution"} />
              <span className="min-w-0 flex-1">
                {mouth.name}
                {at === 0 && <span className="text-ink-2">, feeds the gallery</span>}
              </span>
              <span className="shrink-0 text-right font-figure text-[15px] font-semibold">
                {mouth.dry_s.toFixed(1)} s dry
                <span className="block text-[13px] font-medium text-ink-2">
                  {mouth.least_cover_mm < 0 ? "bare" : `${least.figure} ${least.unit} at the least`}
                </span>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
