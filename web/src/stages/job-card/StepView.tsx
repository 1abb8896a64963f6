import { useState, type ReactElement } from "react";
import type { Entry, JobStage, Said } from "../../api/job";
import { Mark } from "../../parts/Mark";
import { useSize } from "../../parts/size";
import { BoltPattern } from "./BoltPattern";
import { FoundBad } from "./FoundBad";
import { Reason } from "../../parts/Reason";
import { InUnits } from "../../parts/InUnits";
import { StepNotes } from "./StepNotes";
import { waitsNow, type StepNow } from "./standing";
import { TorqueFigures, withTorque } from "./TorqueFigures";
import { WaitBar } from "./WaitBar";
import { clockWords, longWords, MARKS, standWords } from "./words";

const BOLTS_HIGH = 300;

function Cautions({ step }: { step: StepNow }): ReactElement | null {
  if (step.cautions.length === 0) return null;
  return (
    <ul className="my-2 flex flex-col gap-1 border border-ink bg-panel p-3 text-[15px]">
      {step.cautions.map((words, at) => (
        <li key={at} className="flex gap-2">
          <Mark state="caution" />
          <span>
            <strong className="font-semibold">Caution.</strong> <InUnits words={words} />
          </span>
        </li>
      ))}
    </ul>
  );
}

function Takes({ step }: { step: StepNow }): ReactElement | null {
  if (step.tools === "" && step.bought.length === 0) return null;
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 py-1 text-[15px]">
      {step.tools !== "" && (
        <>
          <dt className="text-ink-2">In the hand</dt>
          <dd>{step.tools}</dd>
        </>
      )}
      {step.bought.length > 0 && (
        <>
          <dt className="text-ink-2">Parts</dt>
          <dd>
            {step.bought.map(({ part, words, count, per, is_there: isThere }) => (
              <span key={part} className="block">
                {count.toLocaleString("en")} {per === "metre" ? "m " : per === "litre" ? "L " : ""}
                {words}
                <span className={isThere ? "text-good" : "text-ink-2"}>
                  {isThere ? ", there" : ", not ticked as there"}
                </span>
              </span>
            ))}
          </dd>
        </>
      )}
    </dl>
  );
}

/** Why a step cannot be done now. */
function Held({
  step,
  now,
  steps,
  onPick,
}: {
  step: StepNow;
  now: number;
  steps: readonly StepNow[];
  onPick: (id: string) => void;
}): ReactElement | null {
  if (step.state === "blocked" || step.state === "stopped") {
    const gate = steps.find(({ words }) => words === step.gates[0]);
    return (
      <p className="py-2 text-[15px]" role="note">
        {step.state === "stopped" ? "Stopped: a part was found bad. " : "Not to be passed first: "}
        <button type="button" className="underline" onClick={() => gate && onPick(gate.id)}>
          {step.gates[0]}
        </button>
        {step.gates.length > 1 ? ` and ${step.gates.length - 1} more` : ""}.
      </p>
    );
  }
  if (step.state === "later")
    return (
      <p className="py-1 text-[14px] text-ink-2">
        What comes before it is not all done. It may be done in another order.
      </p>
    );
  return step.state === "shut" && step.until ? (
    <p className="py-1 text-[16px] font-semibold">Shut until {clockWords(step.until, now)}.</p>
  ) : null;
}

/** The steps before and after, on a phone. */
function NearSteps({
  near,
  steps,
  now,
  onPick,
}: {
  near: readonly StepNow[];
  steps: readonly StepNow[];
  now: number;
  onPick: (id: string) => void;
}): ReactElement {
  return (
    <ol className="border-t border-hair lg:hidden">
      {near.map((each) => (
        <li key={each.id} className="border-b border-hair">
          <button
            type="button"
            className="flex min-h-12 w-full items-center gap-2 text-left text-[16px]"
            onClick={() => onPick(each.id)}
          >
            <Mark state={MARKS[each.state]} />
            <span className="min-w-0 flex-1">
              {steps.indexOf(each) + 1} · <InUnits words={each.words} />
            </span>
            <span className="font-figure text-[15px] text-ink-2">{standWords(each, now)}</span>
          </button>
        </li>
      ))}
    </ol>
  );
}

/** One step: what, why, how tight, what is in the hand, what to fear. */
export function StepView({
  stage,
  steps,
  step,
  buildId,
  now,
  isBegun,
  onPick,
  onEnter,
  onSay,
}: {
  stage: JobStage;
  steps: readonly StepNow[];
  step: StepNow;
  buildId: number;
  now: number;
  isBegun: boolean;
  onPick: (id: string) => void;
  onEnter: (entry: Entry, photos?: Blob[]) => void;
  onSay: (said: Said) => void;
}): ReactElement {
  const [asks, setAsks] = useState<"pass" | "over" | "bad" | null>(null);
  const [frame, size] = useSize();
  const flange = step.has_bolts ? stage.card?.flange : null;
  const at = steps.indexOf(step);
  const near = [steps[at - 1], steps[at + 1]].filter((each) => each !== undefined);
  const waits = waitsNow(steps, now);
  const isPassed = step.state === "done" || step.state === "overridden";
  const shuts = steps.find(
    ({ id, wait_over: over }) => over === step.until && step.needs.includes(id),
  );
  return (
    <section aria-label="The step" className="px-4 pt-3 pb-4 lg:px-6" ref={frame}>
      <h1 className="font-figure text-[28px] leading-[1.1] font-semibold">
        <InUnits words={step.words} />
      </h1>
      <p className="mt-1 text-[16px] text-ink-2">
        <InUnits words={step.why} />
      </p>
      {isPassed && (
        <p className="mt-1 flex items-center gap-2 text-[15px]">
          <Mark state={MARKS[step.state]} />
          {step.state === "done" ? "Done" : `Passed without: ${step.reason}.`} {step.by}
          {step.at ? `, ${clockWords(step.at, now)}` : ""}
          {step.isWaiting ? ", not sent yet" : ""}
        </p>
      )}
      {step.is_void && (
        <p className="mt-1 text-[15px] font-semibold">
          It was done, and something that it looks at was made after it: once more.
        </p>
      )}
      <Held step={step} now={now} steps={steps} onPick={onPick} />
      <TorqueFigures step={step} onType={(nm) => onSay(withTorque(stage.said, step, nm))} />
      {flange && size.width > 0 && (
        <BoltPattern
          flange={flange}
          step={step}
          width={Math.min(size.width - 32, 640)}
          mostHeight={BOLTS_HIGH}
          onBolt={(bolt, in_pass, isTight) =>
            isBegun &&
            onEnter({ kind: isTight ? "bolt_loose" : "bolt_tight", step: step.id, bolt, in_pass })
          }
          onOrder={(pattern) => onSay({ ...stage.said, pattern })}
        />
      )}
      {step.torque && !flange && step.id === "torque_pan" && (
        <p className="py-1 text-[14px] text-ink-2">
          Crosswise from the middle out. Lay the flange&apos;s bolts out on Pan to tick them one by
          one.
        </p>
      )}
      <Cautions step={step} />
      {waits.map((each) => (
        <WaitBar key={each.id} step={each} now={now} />
      ))}
      <Takes step={step} />
      <p className="py-1 text-[14px] text-ink-2">
        {longWords(step.hours)} of hands
        {step.wait_h > 0 ? `, then ${longWords(step.wait_h)} by itself` : ""}
        {step.wait_days > 0 ? `, then ${step.wait_days} days` : ""}
        {step.is_critical ? "; the whole job hangs on it" : ""}. {step.source[0]?.toUpperCase()}
        {step.source.slice(1)}.
      </p>
      {isBegun && (
        <StepNotes
          key={step.id}
          step={step}
          buildId={buildId}
          now={now}
          onNote={(words, photos) =>
            onEnter({ kind: "noted", step: step.id, words, photos: [] }, photos)
          }
        />
      )}
      {isBegun && (
        <p className="flex flex-wrap gap-x-5 gap-y-2 pb-1 text-[15px]">
          {step.is_gate && !isPassed && (
            <button type="button" className="min-h-9 underline" onClick={() => setAsks("pass")}>
              Pass without, and say why
            </button>
          )}
          {step.state === "shut" && shuts && (
            <button type="button" className="min-h-9 underline" onClick={() => setAsks("over")}>
              The wait is over already
            </button>
          )}
          <button type="button" className="min-h-9 underline" onClick={() => setAsks("bad")}>
            A part is bad
          </button>
        </p>
      )}
      <NearSteps near={near} steps={steps} now={now} onPick={onPick} />
      {asks === "pass" && (
        <Reason
          title="Pass without"
          words={`"${step.words}" must not be passed. Whoever passes it says why, and that stays on the card with the name.`}
          least={8}
          button="Pass without it"
          onSay={(why) => onEnter({ kind: "overridden", step: step.id, why })}
          onClose={() => setAsks(null)}
        />
      )}
      {asks === "over" && shuts && (
        <Reason
          title="The wait is over already"
          words={`${shuts.words}: ${longWords(shuts.wait_h)} were to pass.`}
          least={3}
          button="It is over"
          onSay={(why) => onEnter({ kind: "wait_over", step: shuts.id, why })}
          onClose={() => setAsks(null)}
        />
      )}
      {asks === "bad" && (
        <FoundBad stage={stage} part={step.part} onEnter={onEnter} onClose={() => setAsks(null)} />
      )}
    </section>
  );
}
