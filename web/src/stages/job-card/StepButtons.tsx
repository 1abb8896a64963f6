import type { ReactElement } from "react";
import type { Entry, JobStage } from "../../api/job";
import { Button } from "../../parts/Button";
import { lastBolt, nextBolt } from "./bolts";
import type { StepNow } from "./standing";
import { clockWords } from "./words";

/** What the thumb does next, large and at the foot: bolt, tick, or what holds it. */
export function StepButtons({
  stage,
  step,
  isBegun,
  isBusy,
  onBegin,
  onEnter,
  onNext,
  nextWords,
}: {
  stage: JobStage;
  step: StepNow;
  isBegun: boolean;
  isBusy: boolean;
  onBegin: () => void;
  onEnter: (entry: Entry) => void;
  onNext: () => void;
  /** The step that would be shown next; null: there is none. */
  nextWords: string | null;
}): ReactElement {
  const bolts = boltsOf(stage, step);
  const isPassed = step.state === "done" || step.state === "overridden";
  const big = "min-h-[60px] flex-1 text-[20px] font-figure font-semibold leading-tight lg:min-h-11";
  const small =
    "min-h-[60px] w-[96px] text-[16px] font-figure font-semibold leading-tight lg:min-h-11";
  if (!isBegun)
    return (
      <Button look="main" className={big} disabled={isBusy} onClick={onBegin}>
        Begin this job
      </Button>
    );
  const held = heldBy(step);
  const takeBack =
    bolts?.last && !isPassed
      ? {
          words: `Undo ${bolts.last.number}`,
          entry: {
            kind: "bolt_loose",
            step: step.id,
            bolt: bolts.last.bolt,
            in_pass: bolts.last.pass,
          },
        }
      : isPassed
        ? { words: "Undo", entry: { kind: "unticked", step: step.id } }
        : null;
  return (
    <>
      <Button
        className={small}
        disabled={!takeBack}
        onClick={() => takeBack && onEnter(takeBack.entry as Entry)}
      >
        {takeBack?.words ?? "Undo"}
      </Button>
      {isPassed ? (
        <Button look="main" className={big} disabled={nextWords === null} onClick={onNext}>
          {nextWords === null ? "All is done" : "Next"}
        </Button>
      ) : held !== null ? (
        <Button look="main" className={big} disabled>
          {held}
        </Button>
      ) : bolts?.next ? (
        <Button look="main" className={big} onClick={() => onEnter(tight(step, bolts.next))}>
          Bolt {bolts.next.number} is tight
        </Button>
      ) : (
        <Button
          look="main"
          className={big}
          onClick={() => onEnter({ kind: "ticked", step: step.id, words: "" })}
        >
          {bolts
            ? `All ${bolts.count} tight: done`
            : step.wait_h > 0
              ? "Done, the wait begins"
              : "Done"}
        </Button>
      )}
    </>
  );
}

/** What holds a step, for the button that cannot be pressed; null: nothing does. */
function heldBy(step: StepNow): string | null {
  if (step.state === "shut")
    return step.until ? `Shut until ${clockWords(step.until, Date.now())}` : "Shut";
  if (step.state === "blocked") return "A gate comes first";
  return step.state === "stopped" ? "Stopped" : null;
}

const tight = (step: StepNow, at: { bolt: number; pass: number } | null): Entry => ({
  kind: "bolt_tight",
  step: step.id,
  bolt: at?.bolt ?? 0,
  in_pass: at?.pass ?? 1,
});

function boltsOf(
  stage: JobStage,
  step: StepNow,
): { next: ReturnType<typeof nextBolt>; last: ReturnType<typeof lastBolt>; count: number } | null {
  const flange = step.has_bolts ? stage.card?.flange : null;
  if (!flange) return null;
  return {
    next: nextBolt(flange, step.tight),
    last: lastBolt(flange, step.tight),
    count: flange.pattern.length,
  };
}
