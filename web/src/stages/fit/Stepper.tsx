import { useEffect, useRef, useState, type ReactElement } from "react";
import { useSettings } from "../../parts/settings";
import { exactlyShown, lengthAs, scaleOf } from "../../parts/units";

const FIRST = 420; // [ms] before a held button runs
const EACH = 75; // [ms] between steps of one that runs
const MOST = 500;
const US_STEP = 25.4 / 32; // [mm]: a thirty-second of an inch

/** One step of the gap, in the units shown. */
export const stepOf = (system: "metric" | "us"): number => (system === "us" ? US_STEP : 1);

/** The gap after so many steps, never below nil. */
export function stepped(gap: number, steps: number, system: "metric" | "us"): number {
  const each = stepOf(system);
  const next = (Math.round(gap / each) + steps) * each;
  return Math.min(MOST, Math.max(0, Number(next.toFixed(3))));
}

function Hold({ sign, onStep }: { sign: 1 | -1; onStep: (steps: number) => void }): ReactElement {
  const timer = useRef(0);
  const latest = useRef(onStep);
  useEffect(() => {
    latest.current = onStep;
  }, [onStep]);
  const stop = (): void => window.clearTimeout(timer.current);
  useEffect(() => stop, []);
  const run = (): void => {
    latest.current(sign);
    timer.current = window.setTimeout(run, EACH);
  };
  return (
    <button
      type="button"
      aria-label={sign > 0 ? "A wider gap" : "A smaller gap"}
      className="grid h-[95px] w-[92px] touch-manipulation place-items-center border border-ink bg-panel select-none"
      onPointerDown={() => {
        latest.current(sign);
        timer.current = window.setTimeout(run, FIRST);
      }}
      onPointerUp={stop}
      onPointerLeave={stop}
      onPointerCancel={stop}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") latest.current(sign);
      }}
    >
      <svg width="34" height="34" viewBox="0 0 34 34" aria-hidden="true">
        <path
          d={sign > 0 ? "M2 17h30M17 2v30" : "M2 17h30"}
          stroke="currentColor"
          strokeWidth="2.5"
        />
      </svg>
    </button>
  );
}

/** The gap that was found: held to run, touched to type. */
export function Stepper({
  gap,
  words,
  onGap,
}: {
  gap: number;
  /** How it stands against what is wanted. */
  words: string;
  onGap: (gap: number) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const [typed, setTyped] = useState<string | null>(null);
  const { figure, unit } =
    system === "us" ? exactlyShown(units, "x_mm", system, gap) : lengthAs(units, system, gap);
  const take = (): void => {
    const value = Number((typed ?? "").replace(",", "."));
    if (typed !== null && typed.trim() !== "" && Number.isFinite(value) && value >= 0)
      onGap(Math.min(MOST, value / scaleOf(units, "x_mm", system)));
    setTyped(null);
  };
  const step = (steps: number): void => onGap(stepped(gap, steps, system));
  return (
    <div className="flex items-center justify-between gap-2">
      <Hold sign={-1} onStep={step} />
      <div className="min-w-0 text-center">
        {typed === null ? (
          <button
            type="button"
            aria-label={`Gap found, ${figure} ${unit}: type another`}
            onClick={() => setTyped(figure)}
            className="font-figure text-[56px] leading-none font-semibold tabular-nums"
            data-gap={gap}
          >
            {figure} <span className="text-[24px] font-medium text-ink-2">{unit}</span>
          </button>
        ) : (
          <input
            autoFocus
            aria-label="Gap found"
            inputMode="decimal"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={take}
            onKeyDown={(event) => {
              if (event.key === "Enter") take();
              if (event.key === "Escape") setTyped(null);
            }}
            className="w-32 border-b-2 border-ink bg-transparent text-center font-figure text-[48px] leading-none font-semibold"
          />
        )}
        <p className="pt-1 text-[15px] font-semibold">{words}</p>
        <p className="text-[13px] text-ink-2">hold to run, tap the figure to type</p>
      </div>
      <Hold sign={1} onStep={step} />
    </div>
  );
}
