import type { ReactElement } from "react";
import type { Trend } from "../../api/book";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { TRENDS, trendWords } from "./words";

const WIDE = 150;
const HIGH = 44;

function Line({ trend }: { trend: Trend }): ReactElement {
  const values = trend.points.map(([, value]) => value);
  const most = Math.max(...values, 1e-6);
  const at = (n: number, value: number): [number, number] => [
    6 + ((WIDE - 12) * n) / Math.max(1, values.length - 1),
    HIGH - 5 - ((HIGH - 12) * value) / most,
  ];
  return (
    <svg width={WIDE} height={HIGH} aria-hidden="true">
      <path d={`M2 ${HIGH - 5}h${WIDE - 4}`} stroke="var(--hair)" />
      <path
        d={`M${values
          .map((value, n) =>
            at(n, value)
              .map((x) => x.toFixed(1))
              .join(" "),
          )
          .join("L")}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {values.map((value, n) => {
        const [x, y] = at(n, value);
        return <circle key={n} cx={x} cy={y} r="2.6" fill="var(--ink)" />;
      })}
    </svg>
  );
}

/** Health over time: each figure over the sessions, the last one said. */
export function Trends({ trends }: { trends: readonly Trend[] }): ReactElement {
  const { units, system } = useSettings();
  return (
    <section aria-label="Over time" className="border-t border-hair px-4 py-2 lg:px-6">
      <h2 className="font-figure text-[18px] font-semibold">Over time</h2>
      <ul className="flex flex-wrap gap-x-8 gap-y-2">
        {trends.map((trend) => (
          <li key={trend.key} data-trend={trend.key}>
            <p className="text-[14px] text-ink-2">{TRENDS[trend.key]}</p>
            <p className="flex items-center gap-2 font-figure text-[19px] font-semibold">
              {trend.is_rising && <Mark state="caution" size={16} />}
              {trendWords(trend, units, system)}
              {trend.is_rising && (
                <span className="text-[14px] font-medium">well off what was usual</span>
              )}
            </p>
            <Line trend={trend} />
          </li>
        ))}
      </ul>
    </section>
  );
}
