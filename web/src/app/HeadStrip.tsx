import { DropdownMenu } from "radix-ui";
import { useRef, useState, type ReactElement } from "react";
import { Link } from "react-router";
import { AccountSheet } from "../screens/account/AccountSheet";
import { FoldedHead } from "./FoldedHead";
import type { BuildOut, PanFigures, Session, Slosh } from "../api/queries";
import { Mark, type MarkState } from "../parts/Mark";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { VERDICT_MARKS, yours, type ShownVerdict } from "../parts/verdict";

/** Letters that the head has room for in large type; twice as many in small, on two lines. */
const SHORT_NAME = 14;

const washes: Record<ShownVerdict["state"], string> = {
  not_yours: "bg-panel",
  runs_dry: "bg-bad-wash",
  draws_air: "bg-panel",
  sound: "bg-good-wash",
  no_lap: "bg-panel",
  faulty: "bg-bad-wash",
};
const inks: Record<ShownVerdict["state"], string> = {
  not_yours: "text-ink",
  runs_dry: "text-bad",
  draws_air: "text-ink",
  sound: "text-good",
  no_lap: "text-ink",
  faulty: "text-bad",
};

function HeadFigure({
  name,
  to,
  value,
  unit,
  mark,
  word,
}: {
  name: string;
  to: string;
  value: string | null;
  unit?: string;
  mark: MarkState;
  word: string;
}): ReactElement {
  return (
    <Link
      to={to}
      className="flex w-[114px] flex-col justify-center border-l border-hair px-3 max-[1240px]:w-[96px]"
    >
      <span className="text-[13px] text-ink-2">{name}</span>
      {value === null ? (
        <span className="font-figure text-[18px] font-medium text-ink-2">{word}</span>
      ) : (
        <>
          <span
            className={`font-figure text-[28px] leading-8 font-bold whitespace-nowrap ${
              mark === "bad" ? "text-bad" : mark === "good" ? "text-good" : ""
            }`}
          >
            {value} <span className="text-[19px] font-medium text-ink-2">{unit}</span>
          </span>
          <span className="flex items-center gap-1 font-figure text-[13px]">
            <Mark state={mark} size={12} /> {word}
          </span>
        </>
      )}
    </Link>
  );
}

/** The state shown, and going back and forth between edits. */
function StateCell({
  build,
  onHistory,
  onUndo,
  onRedo,
  saving,
}: {
  build: BuildOut;
  onHistory: () => void;
  onUndo: () => void;
  onRedo: () => void;
  saving: boolean;
}): ReactElement {
  const button =
    "grid h-7 w-9 place-items-center border border-ink disabled:border-hair disabled:text-line rounded-[2px]";
  const { revision } = build;
  return (
    <div className="flex w-[132px] shrink-0 flex-col justify-center border-l border-hair px-4">
      <button
        type="button"
        onClick={onHistory}
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
        State {build.state} · {saving ? "saving" : "saved"}
      </span>
      <span className="mt-0.5 flex gap-2">
        <button
          type="button"
          className={button}
          disabled={build.undo === null}
          onClick={onUndo}
          aria-label="Undo"
          title={build.undo === null ? "nothing to undo" : `undo: ${build.undo} (ctrl Z)`}
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
          onClick={onRedo}
          aria-label="Redo"
          title={build.redo === null ? "nothing to do again" : `again: ${build.redo} (ctrl Y)`}
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

/** Units, theme and account: the last cell of every head. */
export function Tools({
  session,
  onSignOut,
}: {
  session: Session;
  onSignOut: () => void;
}): ReactElement {
  const { system, setSystem, theme, setTheme } = useSettings();
  const [isOpen, setOpen] = useState(false);
  const cell = "grid place-items-center border-l border-hair text-[13px] font-semibold";
  const unit = (wanted: "metric" | "us", label: string, name: string): ReactElement => (
    <button
      type="button"
      className={`${cell} border-b ${system === wanted ? "bg-ink text-paper" : "text-ink-2"}`}
      aria-pressed={system === wanted}
      aria-label={name}
      title={`${name} (u)`}
      onClick={() => setSystem(wanted)}
    >
      {label}
    </button>
  );
  return (
    <div className="grid w-[96px] shrink-0 grid-cols-2 grid-rows-2">
      {unit("metric", "mm", "mm, metric units")}
      {unit("us", "in", "in, inch and US units")}
      <button
        type="button"
        className={cell}
        aria-label={theme === "paper" ? "Night theme" : "Paper theme"}
        title={theme === "paper" ? "night theme" : "paper theme"}
        onClick={() => setTheme(theme === "paper" ? "night" : "paper")}
      >
        <svg width="18" height="18" viewBox="0 0 20 20" aria-hidden="true">
          <circle cx="10" cy="10" r="7.5" fill="none" stroke="currentColor" strokeWidth="1.75" />
          <path d="M10 2.5a7.5 7.5 0 0 1 0 15z" fill="currentColor" />
        </svg>
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className={cell}
          aria-label={`${session.username.slice(0, 2).toUpperCase()}, account`}
          title="account"
        >
          {session.username.slice(0, 2).toUpperCase()}
        </DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          className="z-20 border border-ink bg-panel p-1 text-[14px] text-ink"
        >
          <DropdownMenu.Label className="px-3 py-1 text-ink-2">
            {session.username}, {session.workshop}
          </DropdownMenu.Label>
          <DropdownMenu.Item
            onSelect={() => setOpen(true)}
            className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
          >
            Account and workshop
          </DropdownMenu.Item>
          <DropdownMenu.Item
            onSelect={onSignOut}
            className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
          >
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {isOpen && <AccountSheet onClose={() => setOpen(false)} />}
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
      <p className="text-[16px] leading-[1.3] font-semibold">
        <span className={inks[verdict.state]}>{verdict.headline}.</span> {verdict.sentence}
      </p>
    </div>
  );
}

function GroundFigure({ pan, to }: { pan: PanFigures | undefined; to: string }): ReactElement {
  const { system, units } = useSettings();
  if (!pan)
    return (
      <HeadFigure name="To the ground" to={to} value={null} mark="nothing" word="being read" />
    );
  const { ground } = pan;
  if (!ground)
    return <HeadFigure name="To the ground" to={to} value={null} mark="nothing" word="not given" />;
  const { figure, unit } = lengthAs(units, system, ground.gap_mm);
  if (ground.margin_mm === null)
    return (
      <HeadFigure
        name="To the ground"
        to={to}
        value={figure}
        unit={unit}
        mark="caution"
        word="no want"
      />
    );
  const wanted = lengthAs(units, system, ground.gap_mm - ground.margin_mm);
  return (
    <HeadFigure
      name="To the ground"
      to={to}
      value={figure}
      unit={unit}
      mark={ground.margin_mm < 0 ? "bad" : "good"}
      word={`want ${wanted.figure}`}
    />
  );
}

/** The head strip: build, state, verdict, the four figures, tools. */
export function HeadStrip({
  build,
  slosh,
  moves,
  pan,
  session,
  pending,
  saving,
  onHistory,
  onUndo,
  onRedo,
  onSignOut,
}: {
  build: BuildOut;
  slosh: Slosh | undefined;
  /** Whether its figures are of moving oil. */
  moves: boolean;
  pan: PanFigures | undefined;
  session: Session;
  pending: boolean;
  saving: boolean;
  onHistory: () => void;
  onUndo: () => void;
  onRedo: () => void;
  onSignOut: () => void;
}): ReactElement {
  const { lean_right_deg: lean, nose_points: nose } = build.document.car;
  const set = nose === "front" || nose === "rear" ? "engine along" : "engine across";
  const leaned =
    lean === 0 ? "upright" : `leaned ${Math.abs(lean)}° ${lean > 0 ? "right" : "left"}`;
  const head = useRef<HTMLElement>(null);
  const verdict = slosh && yours(slosh.verdict, build.invented);
  const dry = verdict?.dry_s ?? null;
  const path = (stage: string): string => `/builds/${build.id}/${stage}`;
  return (
    <>
      <FoldedHead head={head} name={build.name} verdict={verdict} />
      <header
        ref={head}
        className="flex min-h-20 flex-wrap border-b-2 border-ink bg-panel md:flex-nowrap"
      >
        <div className="flex min-w-[140px] flex-1 flex-col justify-center px-4 md:w-[168px] md:flex-none">
          <Link
            to="/"
            title={`${build.name}: all builds`}
            className={`line-clamp-2 font-figure font-bold [overflow-wrap:anywhere] ${
              build.name.length > SHORT_NAME
                ? "text-[17px] leading-[20px]"
                : "text-[26px] leading-8"
            }`}
          >
            {build.name}
          </Link>
          <span className="font-figure text-[13px] text-ink-2">
            {set}, {leaned}
          </span>
        </div>
        <StateCell
          build={build}
          onHistory={onHistory}
          onUndo={onUndo}
          onRedo={onRedo}
          saving={saving}
        />
        <div className="order-last flex w-full border-t border-hair md:order-none md:w-auto md:min-w-0 md:flex-1 md:border-t-0">
          {verdict ? (
            <VerdictCell verdict={verdict} pending={pending} />
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
          {dry === null ? (
            <HeadFigure
              name="Runs dry"
              to={path("loads")}
              value={null}
              mark="nothing"
              word="no lap"
            />
          ) : (
            <HeadFigure
              name={moves ? "Dry, moving" : "Dry, settled"}
              to={path("slosh")}
              value={dry.toFixed(1)}
              unit="s/lap"
              mark={verdict?.state === "not_yours" ? "nothing" : dry > 0 ? "bad" : "good"}
              word={
                verdict?.state === "not_yours" ? "not yours" : dry > 0 ? "want 0.0" : "as wanted"
              }
            />
          )}
          <HeadFigure
            name="Lowest gallery"
            to={path("pressure")}
            value={null}
            mark="nothing"
            word="to come"
          />
          <HeadFigure
            name="Worst drain"
            to={path("drains")}
            value={null}
            mark="nothing"
            word="to come"
          />
          <GroundFigure pan={pan} to={path("car")} />
        </div>
        <Tools session={session} onSignOut={onSignOut} />
      </header>
    </>
  );
}
