import type { ReactElement } from "react";
import type { JobStage, Said } from "../../api/job";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Extras } from "./Extras";
import { dayWords } from "./words";

/** Which state the car is in: the card is the way from there to the plan. */
export function ChooseAsIs({
  stage,
  onBack,
}: {
  stage: JobStage;
  /** Back to the card, where there is one already. */
  onBack: () => void;
}): ReactElement {
  const { edit } = useBuildView();
  return (
    <section className="max-w-2xl px-6 py-4">
      <h1 className="font-figure text-[24px] font-semibold">Which state is the car in?</h1>
      <p className="py-2">
        The card is worked out from the difference between the car as it stands in the workshop and
        the plan on the screen. Choose the state that the car is in today.
      </p>
      {stage.as_is !== null && (
        <Button className="mb-2 min-h-11" onClick={onBack}>
          Back to the card
        </Button>
      )}
      <ul>
        {stage.choose.map(({ state, words, made_at: at, before }) => (
          <li key={state} className="flex items-center gap-3 border-b border-hair py-1">
            <span className="min-w-0 flex-1">
              State {state}: {words}
              <span className="block text-[13px] text-ink-2">
                {dayWords(at)}
                {state === stage.as_is && ", chosen"}
                {before && `, the last before anything was planned (${before}): most likely this`}
              </span>
            </span>
            <Button
              look={before ? "main" : undefined}
              className="min-h-11"
              disabled={edit.isPending}
              onClick={() => {
                edit.mutate({ kind: "asIs", state });
                onBack();
              }}
            >
              The car is so
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The state that a card which is not begun yet goes out from; another may be chosen. */
export function FromState({
  stage,
  onAnother,
}: {
  stage: JobStage;
  onAnother: () => void;
}): ReactElement {
  return (
    <p className="text-[14px] text-ink-2">
      The car is in state {stage.as_is}.{" "}
      <button type="button" className="text-ink underline" onClick={onAnother}>
        It is in another
      </button>
    </p>
  );
}

/** The car is as it is planned; what is renewed or looked over on it may still be said. */
export function NothingToDo({
  stage,
  onAnother,
  onSay,
  fault,
}: {
  stage: JobStage;
  onAnother: () => void;
  onSay: (said: Said) => void;
  fault: string | null;
}): ReactElement {
  const { go } = useBuildView();
  return (
    <section className="max-w-2xl px-6 py-4">
      <h1 className="font-figure text-[24px] font-semibold">
        Nothing to do: the car is as it is planned
      </h1>
      <p className="py-2">
        Change something on Pan, Pressure or Lines, or take a remedy on Options: the work it makes
        stands here then, in its order.
      </p>
      {stage.number === null && <FromState {...{ stage, onAnother }} />}
      <Button look="main" className="mt-2" onClick={() => go("options")}>
        Look at the remedies
      </Button>
      <div className="mt-4">
        <Extras title="Or renew or look over a part" {...{ stage, onSay }} said={stage.said} />
        {fault && (
          <p role="alert" className="py-1 text-[14px] text-bad">
            {fault}
          </p>
        )}
      </div>
      {stage.over.length > 0 && (
        <>
          <h2 className="pt-5 font-figure text-[18px] font-semibold">Jobs that are done</h2>
          <ul>
            {stage.over.map((card) => (
              <li key={card.number} className="border-b border-hair py-1">
                Job card {card.number}: {card.change}
                <span className="block text-[13px] text-ink-2">
                  closed {dayWords(card.closed_at)} by {card.closed_by}, state {card.state}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
