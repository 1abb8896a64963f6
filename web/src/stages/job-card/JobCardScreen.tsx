import { useState, type ReactElement } from "react";
import { useSearchParams } from "react-router";
import { wordsOf } from "../../api/client";
import { useClose, useJob, useSay, useSendEntries, type Entry, type JobStage } from "../../api/job";
import { useSession } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Away } from "../../parts/Away";
import { useQueue } from "../../parts/useQueue";
import { BenchHead } from "../../parts/BenchHead";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Notice, Waiting } from "../../parts/Notice";
import { signal } from "../../parts/signal";
import { useNow } from "../../parts/useNow";
import { JobNumbers } from "./JobNumbers";
import { ChooseAsIs, FromState, NothingToDo } from "./NoCard";
import { Parts } from "./Parts";
import { countDone, nextStep, stepsNow } from "./standing";
import { StepButtons } from "./StepButtons";
import { StepList } from "./StepList";
import { StepView } from "./StepView";
import { entryWords } from "./words";

type Page = "step" | "all" | "job" | "parts";
const PAGES: Readonly<Record<Page, string>> = {
  step: "Step",
  all: "All",
  job: "Job",
  parts: "Parts",
};

function Closing({ stage }: { stage: JobStage }): ReactElement {
  const { build } = useBuildView();
  const close = useClose(build);
  return (
    <div className="px-4 py-3 lg:px-6">
      <Notice kind="good" title="All is done">
        <p>Close the card: the car is then as it is planned, with who and when.</p>
        <Button
          look="main"
          className="mt-2 min-h-12"
          disabled={close.isPending}
          onClick={() => close.mutate()}
        >
          Close job card {stage.number}
        </Button>
        {close.error && <p role="alert">{wordsOf(close.error)}</p>}
      </Notice>
    </div>
  );
}

function TheJob({
  told,
  me,
  onAnother,
}: {
  told: JobStage;
  me: string;
  /** The car is in another state than was said. */
  onAnother: () => void;
}): ReactElement | null {
  const { build } = useBuildView();
  const [tried, setTried] = useState<JobStage | null>(null);
  // what is said before it is begun is only tried
  const isNew = tried?.state === told.state && tried.as_is === told.as_is;
  const stage = told.number === null && isNew ? tried : told;
  const { card } = stage;
  const now = useNow();
  const queue = useQueue<Entry>(`job:${build.id}`, build.id, me, useSendEntries(build));
  const say = useSay(build);
  const [params, setParams] = useSearchParams();
  const [page, setPage] = useState<Page>("step");
  const [beside, setBeside] = useState<"job" | "parts">("job");
  const isBegun = stage.number !== null;
  if (!card) return null;
  const steps = stepsNow(card, queue.rows, now);
  const next = nextStep(steps);
  const step = steps.find(({ id }) => id === params.get("step")) ?? next ?? steps.at(-1);
  const pick = (id: string): void => {
    setParams({ step: id }, { replace: true });
    setPage("step");
    window.scrollTo({ top: 0 });
  };
  const enter = (entry: Entry, photos: Blob[] = []): void => {
    signal("taken");
    queue.add(entry, photos);
    if (entry.kind === "ticked" && entry.step === params.get("step"))
      setParams({}, { replace: true });
  };
  const sayIt = (said: JobStage["said"]): void =>
    isBegun
      ? say.mutate({ said, how: "keep" })
      : say.mutate({ said, how: "try" }, { onSuccess: setTried });
  const fault = say.error ? wordsOf(say.error) : null;
  if (!step) return <NothingToDo {...{ stage, onAnother, fault }} onSay={sayIt} />;
  const shown = (which: Page): string => (page === which ? "" : "hidden lg:block");
  const job = (
    <>
      {!isBegun && (
        <div className="px-4 pt-3">
          <p className="text-[14px] text-ink-2">
            Not begun. Begin it, and what is said here is kept.
          </p>
          <FromState {...{ stage, onAnother }} />
        </div>
      )}
      <JobNumbers stage={stage} card={card} onSay={sayIt} fault={fault} />
    </>
  );
  return (
    <>
      <BenchHead
        name={build.name}
        word={`step ${steps.indexOf(step) + 1} of ${steps.length}`}
        parts={steps.map(({ id, state }) =>
          id === step.id ? "now" : state === "done" || state === "overridden" ? "done" : "left",
        )}
        pages={PAGES}
        page={page}
        onPage={setPage}
      />
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <nav
          aria-label="All steps"
          className={`lg:w-[330px] lg:shrink-0 lg:overflow-y-auto lg:border-r lg:border-ink ${shown("all")}`}
        >
          <p className="px-4 pt-3 font-figure text-[20px] font-semibold">
            {isBegun ? `Job card ${stage.number}` : "The job, not begun"}
            <span className="block font-sans text-[14px] font-normal text-ink-2">
              {countDone(steps)} of {steps.length} done
              {isBegun ? `; begun by ${stage.begun_by}` : ""}
            </span>
          </p>
          <StepList steps={steps} picked={step.id} now={now} onPick={pick} />
        </nav>
        <div
          className={`flex min-w-0 flex-1 flex-col lg:min-h-0 ${page === "step" ? "" : "hidden lg:flex"}`}
        >
          <div className="min-h-0 flex-1 lg:overflow-y-auto">
            {isBegun && !next && queue.rows.length === 0 && <Closing stage={stage} />}
            <StepView
              stage={stage}
              steps={steps}
              step={step}
              buildId={build.id}
              now={now}
              isBegun={isBegun}
              onPick={pick}
              onEnter={enter}
              onSay={sayIt}
            />
          </div>
          <div className="sticky bottom-[50px] z-[5] flex gap-2 border-t border-ink bg-paper px-4 py-2 md:bottom-0">
            <StepButtons
              stage={stage}
              step={step}
              isBegun={isBegun}
              isBusy={say.isPending}
              onBegin={() => say.mutate({ said: stage.said, how: "begin" })}
              onEnter={enter}
              onNext={() => next && pick(next.id)}
              nextWords={next?.words ?? null}
            />
          </div>
          <div className="px-4 pt-2 pb-3 lg:px-6">
            <Away queue={queue} wordsOf={entryWords} />
          </div>
        </div>
        <div className={page === "job" ? "lg:hidden" : "hidden"}>{job}</div>
        <div className={page === "parts" ? "lg:hidden" : "hidden"}>
          <Parts stage={stage} />
        </div>
        <div className="hidden lg:flex">
          <InspectorTabs
            pages={[
              { key: "job", label: "Job", content: job },
              { key: "parts", label: "Parts", content: <Parts stage={stage} /> },
            ]}
            shown={beside}
            onShow={setBeside}
          />
        </div>
      </div>
    </>
  );
}

/** The work in its order, one step at a time. */
export function JobCardScreen(): ReactElement {
  const { build } = useBuildView();
  const session = useSession().data;
  const query = useJob(build);
  const [chooses, setChooses] = useState(false);
  const stage = query.data;
  if (!stage || !session)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the job card"
        onRetry={() => void query.refetch()}
      />
    );
  if (!stage.card || chooses) return <ChooseAsIs stage={stage} onBack={() => setChooses(false)} />;
  return <TheJob told={stage} me={session.username} onAnother={() => setChooses(true)} />;
}
