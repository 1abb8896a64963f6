import { useState, type ReactElement } from "react";
import type { Booked, Trend } from "../../api/book";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { useFormUnits, useSettings } from "../../parts/settings";
import { shownAs, storedFrom } from "../../parts/units";
import { TREND_FIELDS, TRENDS, trendUnit, trendWords } from "./words";

const WIDE = 150;
const HIGH = 44;

function Line({ trend }: { trend: Trend }): ReactElement {
  const values = trend.points.map(([, value]) => value);
  const most = Math.max(...values, trend.limit ?? 0, 1e-6);
  const at = (n: number, value: number): [number, number] => [
    6 + ((WIDE - 12) * n) / Math.max(1, values.length - 1),
    HIGH - 5 - ((HIGH - 12) * value) / most,
  ];
  return (
    <svg width={WIDE} height={HIGH} aria-hidden="true">
      <path d={`M2 ${HIGH - 5}h${WIDE - 4}`} stroke="var(--hair)" />
      {trend.limit !== null && (
        <path
          d={`M2 ${at(0, trend.limit)[1].toFixed(1)}h${WIDE - 4}`}
          stroke="var(--bad)"
          strokeDasharray="3 3"
        />
      )}
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

interface LimitProps {
  trend: Trend;
  onWrite: (entry: Booked) => void;
}

/** The builder's own limit of a figure; typed where it is pressed. */
function Limit({ trend, onWrite }: LimitProps): ReactElement {
  const { units, system } = useSettings();
  const [isTyped, setIsTyped] = useState(false);
  if (isTyped)
    return (
      <LimitForm
        trend={trend}
        onWrite={(entry) => {
          onWrite(entry);
          setIsTyped(false);
        }}
      />
    );
  return (
    <button
      type="button"
      className="min-h-9 text-[14px] underline"
      onClick={() => setIsTyped(true)}
    >
      {trend.limit === null
        ? "no limit of your own"
        : `${trend.key === "lowest" ? "at least" : "at most"} ${trendWords(trend, units, system, trend.limit)}`}
    </button>
  );
}

function LimitForm({ trend, onWrite }: LimitProps): ReactElement {
  const { units, system } = useFormUnits();
  const was =
    trend.limit === null
      ? ""
      : (shownAs(units, TREND_FIELDS[trend.key], system, trend.limit)?.figure ??
        String(trend.limit));
  const [typed, setTyped] = useState(was);
  const figure = Number(typed.replace(",", "."));
  const isRead = typed.trim() === "" || (figure > 0 && figure <= 20_000);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isRead) return;
        const read = storedFrom(units, TREND_FIELDS[trend.key], system, figure);
        const anew = typed.trim() === "" ? null : read;
        const limit = typed === was ? trend.limit : anew;
        onWrite({ kind: "trend_limit", key: trend.key, limit });
      }}
    >
      <label className="flex flex-col text-[13px] text-ink-2">
        {trend.key === "lowest" ? "At least" : "At most"}, {trendUnit(trend, units, system)}
        <input
          value={typed}
          inputMode="decimal"
          aria-invalid={!isRead}
          onChange={(event) => setTyped(event.target.value)}
          className="min-h-9 w-20 border border-ink bg-paper px-2 text-[15px] text-ink"
        />
      </label>
      <Button type="submit" disabled={!isRead}>
        Keep
      </Button>
    </form>
  );
}

/** What is to be said beside a figure. */
function offWords(trend: Trend): string {
  if (trend.is_past) return "past your limit";
  return trend.is_rising ? "well off what was usual" : "";
}

/** Health over time: each figure over the sessions, the last one said. */
export function Trends({
  trends,
  onWrite,
}: {
  trends: readonly Trend[];
  onWrite: (entry: Booked) => void;
}): ReactElement {
  const { units, system } = useSettings();
  return (
    <section aria-label="Over time" className="border-t border-hair px-4 py-2 lg:px-6">
      <h2 className="font-figure text-[18px] font-semibold">Over time</h2>
      <ul className="flex flex-wrap gap-x-8 gap-y-2">
        {trends.map((trend) => (
          <li key={trend.key} data-trend={trend.key}>
            <p className="text-[14px] text-ink-2">{TRENDS[trend.key]}</p>
            <p className="flex items-center gap-2 font-figure text-[19px] font-semibold">
              {offWords(trend) && <Mark state={trend.is_past ? "bad" : "caution"} size={16} />}
              {trendWords(trend, units, system)}
              <span className="text-[14px] font-medium">{offWords(trend)}</span>
            </p>
            <Line trend={trend} />
            <Limit trend={trend} onWrite={onWrite} />
          </li>
        ))}
      </ul>
    </section>
  );
}
