import { useRef, type ReactElement } from "react";
import { Link, useNavigate } from "react-router";
import { useSignOut, type Session } from "../api/queries";
import { useBuildView } from "../document/BuildContext";
import { Mark } from "../parts/Mark";
import { VERDICT_MARKS, yours, type ShownVerdict } from "../parts/verdict";
import { InUnits, useSay } from "../parts/InUnits";
import { FoldedHead } from "./FoldedHead";
import { HEAD_FIGURES, REMINDERS } from "./registry";
import { Tools } from "./Tools";

/** Letters that the head has room for in large type; twice as many in small, on two lines. */
const SHORT_NAME = 14;

const washes: Record<ShownVerdict["state"], string> = {
  not_yours: "bg-panel",
  not_safe: "bg-bad-wash",
  caution: "bg-panel",
  sound: "bg-good-wash",
  no_lap: "bg-panel",
  faulty: "bg-bad-wash",
};
const inks: Record<ShownVerdict["state"], string> = {
  not_yours: "text-ink",
  not_safe: "text-bad",
  caution: "text-ink",
  sound: "text-good",
  no_lap: "text-ink",
  faulty: "text-bad",
};

/** The state shown, and going back and forth between edits. */
function StateCell(): ReactElement {
  const { build, edit, openHistory } = useBuildView();
  const say = useSay();
  const button =
    "grid h-7 w-9 place-items-center border border-ink disabled:border-hair disabled:text-line rounded-[2px]";
  const { revision } = build;
  return (
    <div className="flex w-[132px] shrink-0 flex-col justify-center border-l border-hair px-4">
      <button
        type="button"
        onClick={openHistory}
        title="revisions and history (h)"
        className="flex min-w-0 items-center justify-between gap-1 text-left font-figure text-[16px] leading-5 font-semibold"
      >
        <span className="truncate">
          {revision
            ? `${revision.state === build.state ? "" : "after "}R${revision.number} · ${revision.name}`
            : "No revision"}
        </span>
        <svg width="10" height="7" viewBox="0 0 10 7" aria-hidden="true" className="shrink-0">
          <path d="M1 1l4 4 4-4" fill="none" stroke="currentColor" strokeWidth="1.75" />
        </svg>
      </button>
      <span className="font-figure text-[13px] text-ink-2" aria-live="polite">
        State {build.state} · {edit.isPending ? "saving" : "saved"}
      </span>
      <span className="mt-0.5 flex gap-2">
        <button
          type="button"
          className={button}
          disabled={build.undo === null}
          onClick={() => edit.mutate({ kind: "undo" })}
          aria-label="Undo"
          title={build.undo === null ? "nothing to undo" : `undo: ${say(build.undo)} (ctrl Z)`}
        >
          <svg width="18" height="14" viewBox="0 0 18 14" aria-hidden="true">
            <path
              d="M6 1 2 5l4 4M2 5h9a4 4 0 0 1 0 8H6"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.75"
            />
          </svg>
        </button>
        <button
          type="button"
          className={button}
          disabled={build.redo === null}
          onClick={() => edit.mutate({ kind: "redo" })}
          aria-label="Redo"
          title={build.redo === null ? "nothing to do again" : `again: ${say(build.redo)} (ctrl Y)`}
        >
          <svg width="18" height="14" viewBox="0 0 18 14" aria-hidden="true">
            <path
              d="M12 1l4 4-4 4M16 5H7a4 4 0 0 0 0 8h5"
              fill="none"
              stroke="currentColor"
              strokeWidth="1.75"
            />
          </svg>
        </button>
      </span>
    </div>
  );
}

/** The verdict as shape, words and sentence. */
export function VerdictCell({
  verdict,
  pending,
}: {
  verdict: ShownVerdict;
  pending: boolean;
}): ReactElement {
  return (
    <div
      role="status"
      aria-label="Verdict"
      aria-busy={pending}
      className={`flex min-w-0 flex-1 items-center gap-4 border-l border-hair px-4 py-2 ${washes[verdict.state]}`}
    >
      <Mark state={VERDICT_MARKS[verdict.state]} size={32} />
      <p className="text-[16px] leading-[1.25] font-semibold">
        <span className={inks[verdict.state]}>{verdict.headline}.</span>{" "}
        <InUnits words={verdict.sentence} />
      </p>
    </div>
  );
}

/** The build's name, which leads back to the shelf, and how its engine sits. */
function NameCell(): ReactElement {
  const { build } = useBuildView();
  const { lean_right_deg: lean, nose_points: nose } = build.document.car;
  const set = nose === "front" || nose === "rear" ? "engine along" : "engine across";
  const leaned =
    lean === 0 ? "upright" : `leaned ${Math.abs(lean)}° ${lean > 0 ? "right" : "left"}`;
  const size =
    build.name.length > SHORT_NAME ? "text-[17px] leading-[20px]" : "text-[26px] leading-8";
  return (
    <div className="flex min-w-[140px] flex-1 flex-col justify-center px-4 md:w-[168px] md:flex-none">
      <Link
        to="/"
        title={`${build.name}: all builds`}
        className={`line-clamp-2 font-figure font-bold [overflow-wrap:anywhere] ${size}`}
      >
        {build.name}
      </Link>
      <span className="font-figure text-[13px] text-ink-2">
        {set}, {leaned}
      </span>
      {REMINDERS.map(({ key, Show }) => (
        <Show key={key} to={`/builds/${build.id}/${key}`} />
      ))}
    </div>
  );
}

/** The head strip: build, state, verdict, the stages' figures, tools. */
export function HeadStrip({ session }: { session: Session }): ReactElement {
  const { build, forecast } = useBuildView();
  const head = useRef<HTMLElement>(null);
  const signOut = useSignOut();
  const navigate = useNavigate();
  const { judged, settled } = forecast;
  const verdict = judged && yours(judged.verdict, build.invented);
  return (
    <>
      <FoldedHead head={head} name={build.name} verdict={verdict} />
      <header
        ref={head}
        className="flex min-h-20 flex-wrap border-b-2 border-ink bg-panel md:flex-nowrap"
      >
        <NameCell />
        <StateCell />
        <div className="order-last flex w-full border-t border-hair md:order-none md:w-auto md:min-w-0 md:flex-1 md:border-t-0">
          {verdict ? (
            <VerdictCell verdict={verdict} pending={settled.isFetching} />
          ) : (
            <p
              role="status"
              className="flex flex-1 items-center border-l border-hair px-4 text-ink-2"
            >
              Working out the verdict…
            </p>
          )}
        </div>
        <div className="order-last flex w-full border-t border-hair md:order-none md:w-auto md:border-t-0">
          {HEAD_FIGURES.map(({ key, Show }) => (
            <Show key={key} to={`/builds/${build.id}/${key}`} />
          ))}
        </div>
        <Tools
          session={session}
          onSignOut={() => signOut.mutate(undefined, { onSuccess: () => void navigate("/") })}
        />
      </header>
    </>
  );
}
