import { Fragment, useEffect, useRef, type ReactElement } from "react";
import { Mark } from "../../parts/Mark";
import { InUnits } from "../../parts/InUnits";
import type { StepNow } from "./standing";
import { MARKS, standWords } from "./words";

/** All steps in the order of the work, by the parts of the job. */
export function StepList({
  steps,
  picked,
  now,
  onPick,
}: {
  steps: readonly StepNow[];
  picked: string | undefined;
  now: number;
  onPick: (id: string) => void;
}): ReactElement {
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    const row = list.current?.querySelector("[aria-current=step]");
    if (row && "scrollIntoView" in row) row.scrollIntoView({ block: "nearest" });
  }, [picked]);
  return (
    <ol ref={list} aria-label="Steps of the job" className="text-[15px]">
      {steps.map((step, at) => {
        const isPicked = step.id === picked;
        const isFirst = steps[at - 1]?.phase !== step.phase;
        return (
          <Fragment key={step.id}>
            {isFirst && (
              <li className="px-4 pt-3 pb-1 font-figure text-[15px] font-semibold text-ink-2">
                {step.phase}
              </li>
            )}
            <li className="border-b border-hair">
              <button
                type="button"
                aria-current={isPicked ? "step" : undefined}
                data-step={step.id}
                data-state={step.state}
                onClick={() => onPick(step.id)}
                className={`flex min-h-11 w-full items-center gap-2 px-4 py-1.5 text-left focus-visible:outline-offset-[-3px] ${isPicked ? "bg-ink text-paper" : ""}`}
              >
                <Mark state={MARKS[step.state]} onInk={isPicked} />
                <span className="w-6 shrink-0 text-right font-figure">{at + 1}</span>
                <span className="min-w-0 flex-1">
                  <InUnits words={step.words} />
                  {step.is_gate && (
                    <span className="ml-1 border border-current px-1 text-[12px] whitespace-nowrap">
                      gate
                    </span>
                  )}
                  {step.is_new && (
                    <span className="ml-1 border border-dashed border-current px-1 text-[12px]">
                      new
                    </span>
                  )}
                  {step.is_void && (
                    <span className="ml-1 border border-current px-1 text-[12px]">again</span>
                  )}
                </span>
                <span
                  className={`shrink-0 font-figure text-[14px] ${isPicked ? "" : "text-ink-2"}`}
                >
                  {standWords(step, now)}
                  {step.isWaiting ? " ·" : ""}
                </span>
              </button>
            </li>
          </Fragment>
        );
      })}
    </ol>
  );
}
