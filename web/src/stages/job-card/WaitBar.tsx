import { useEffect, useRef, type ReactElement } from "react";
import { signal } from "../../parts/signal";
import { InUnits } from "../../parts/InUnits";
import type { StepNow } from "./standing";
import { clockWords, leftWords } from "./words";

const HOUR = 3_600_000;

/** A wait that runs: how long still, and from when what comes after it is free. */
export function WaitBar({ step, now }: { step: StepNow; now: number }): ReactElement {
  const over = Date.parse(step.wait_over ?? "");
  const began = over - (step.wait_h + 24 * step.wait_days) * HOUR;
  const share = Math.min(1, Math.max(0, (now - began) / Math.max(1, over - began)));
  const isOver = now >= over;
  const said = useRef(isOver);
  useEffect(() => {
    if (isOver && !said.current) signal("over");
    said.current = isOver;
  }, [isOver]);
  return (
    <div className="py-2" data-wait={step.id}>
      <p className="flex items-baseline justify-between gap-2">
        <span className="min-w-0 font-figure text-[17px] font-semibold">
          <InUnits words={step.words} />
        </span>
        <span className="font-figure text-[26px] leading-none font-semibold whitespace-nowrap tabular-nums">
          {isOver ? "over" : leftWords(over, now)}
          {!isOver && <span className="ml-1 text-[15px] font-medium text-ink-2">left</span>}
        </span>
      </p>
      <svg width="100%" height="16" className="my-1 block" aria-hidden="true">
        <rect x="0.75" y="0.75" width="99.5%" height="14" fill="none" stroke="var(--ink)" />
        <rect
          x="0.75"
          y="0.75"
          width={`${(share * 99.5).toFixed(1)}%`}
          height="14"
          fill="var(--ink)"
        />
      </svg>
      <p className="flex justify-between font-figure text-[14px] text-ink-2">
        <span>from {clockWords(began, now)}</span>
        <span className="font-semibold text-ink">over {clockWords(over, now)}</span>
      </p>
    </div>
  );
}
