import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  isLearning,
  useLearning,
  useLearningAct,
  useTakeLearned,
  type FitTold,
  type Learning,
} from "../../api/learning";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { Progress } from "../../parts/Progress";
import { useSettings } from "../../parts/settings";
import { LearnedFigure } from "./LearnedFigure";
import { cautionsOf, knownOf, lapsWords, sharesWords } from "./learnedWords";

/** What is known by the book already, and a way to forget it. */
function Known(): ReactElement | null {
  const { build, edit } = useBuildView();
  const { units, system } = useSettings();
  const rows = knownOf(build.document.learned, units, system);
  if (rows.length === 0) return null;
  return (
    <ul aria-label="Known by the book" className="py-1 text-[15px]">
      {rows.map(({ key, words }) => (
        <li key={key} className="flex flex-wrap items-center gap-x-3">
          <span>{words}.</span>
          <button
            type="button"
            className="min-h-9 underline"
            onClick={() =>
              edit.mutate({
                kind: "act",
                act: { kind: "learn", source: "by hand", forget: [key] },
                system,
              })
            }
          >
            Guess it again
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What came of it: figure by figure, and whether they are taken over. */
function Found({
  learning,
  told,
  onLeave,
}: {
  learning: Learning;
  told: FitTold;
  onLeave: () => void;
}): ReactElement {
  const { build, go } = useBuildView();
  const take = useTakeLearned(build);
  const can = told.figures.filter(({ takes }) => takes).map(({ key }) => key);
  const [not, setNot] = useState<readonly string[]>([]);
  const keys = can.filter((key) => !not.includes(key));
  const isOpen = learning.taken_in === null && !learning.left;
  return (
    <>
      <p className="text-[14px] text-ink-2">
        fitted to {lapsWords(learning.laps)}, state {learning.state}; the rest of the model was left
        alone
      </p>
      <div className="flex flex-col gap-2">
        <div className="min-w-0 overflow-x-auto">
          <table className="w-full text-[15px]">
            <tbody>
              {told.figures.map((each) => (
                <LearnedFigure
                  key={each.key}
                  told={each}
                  isTaken={isOpen && each.takes ? !not.includes(each.key) : null}
                  onTaken={(isTaken) =>
                    setNot((before) =>
                      isTaken ? before.filter((key) => key !== each.key) : [...before, each.key],
                    )
                  }
                />
              ))}
            </tbody>
          </table>
        </div>
        {isOpen && can.length > 0 && (
          <div className="flex gap-2">
            <Button
              look="main"
              className="min-h-10"
              disabled={take.isPending || keys.length === 0}
              onClick={() => take.mutate({ learning_id: learning.id, keys })}
            >
              {keys.length === can.length ? "Take them all" : `Take ${keys.length}`}
            </Button>
            <Button className="min-h-10" onClick={onLeave}>
              Leave as it was
            </Button>
          </div>
        )}
      </div>
      {take.error && (
        <p role="alert" className="text-[14px] text-bad">
          {wordsOf(take.error)}
        </p>
      )}
      {learning.taken_in !== null && (
        <Notice kind="good" title={`Taken over in state ${learning.taken_in}`}>
          <p>Forecasts rest on it from there on; those made before stay as they were.</p>
          <Button className="mt-1" onClick={() => go("slosh")}>
            See it slosh
          </Button>
        </Notice>
      )}
      {learning.left && <p className="text-[15px]">Left as it was.</p>}
      {cautionsOf(told).map((words) => (
        <p key={words} className="flex gap-2 text-[15px]">
          <Mark state="caution" /> <span>{words}</span>
        </p>
      ))}
      <p className="pt-1 text-[13px] text-ink-2">
        {sharesWords(told)}Dot and bar: fitted, with 19 chances in 20 inside the bar; ring: what the
        forecast had. Left between the two: {told.left_bar.toFixed(2)} bar, before it{" "}
        {told.before_bar.toFixed(2)}; between runs the model is off by {told.between_bar.toFixed(2)}{" "}
        bar, which is counted.
      </p>
    </>
  );
}

const ENDED = { cancelled: "It was cancelled", failed: "It could not be fitted" } as const;

/** What the car says the numbers are: a fit to the laps that tell most. */
export function WhatItSays({ hasLaps }: { hasLaps: boolean }): ReactElement | null {
  const { build } = useBuildView();
  const { data, error } = useLearning(build);
  const act = useLearningAct(build);
  const learning = data?.learning ?? null;
  if (!hasLaps && learning === null && !build.document.learned) return null;
  const underWay = isLearning(learning);
  const fault = act.error ?? error;
  return (
    <section
      aria-label="What the car says the numbers are"
      className="border-t border-hair px-4 py-2 lg:px-6"
    >
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-figure text-[18px] font-semibold">What the car says the numbers are</h2>
        {hasLaps && !underWay && (
          <Button disabled={act.isPending} onClick={() => act.mutate("ask")}>
            {learning === null ? "Ask the laps" : "Ask them again"}
          </Button>
        )}
      </div>
      <Known />
      {learning === null && hasLaps && (
        <p className="text-[15px]">
          Oil up top, bearings, the pump&apos;s slip on gas and the sensor&apos;s lag are guesses.
          The two laps that dip most tell of them: twelve runs in moving oil, a few minutes.
        </p>
      )}
      {fault && (
        <p role="alert" className="text-[14px] text-bad">
          {wordsOf(fault)}
        </p>
      )}
      {learning && underWay && (
        <Progress
          doing={
            learning.runs_done < learning.runs
              ? `Run ${learning.runs_done + 1} of ${learning.runs} over ${lapsWords(learning.laps)}`
              : "Fitting"
          }
          share={learning.share}
          onCancel={() => act.mutate("cancel")}
        />
      )}
      {learning && (learning.status === "cancelled" || learning.status === "failed") && (
        <Notice
          kind={learning.status === "failed" ? "bad" : "caution"}
          title={ENDED[learning.status]}
        >
          {learning.reason}
        </Notice>
      )}
      {learning?.told && (
        <Found
          key={learning.id}
          learning={learning}
          told={learning.told}
          onLeave={() => act.mutate({ leave: learning.id })}
        />
      )}
    </section>
  );
}
