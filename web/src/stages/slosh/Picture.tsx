import {
  useMemo,
  useRef,
  useState,
  type ReactElement,
  type ReactNode,
  type RefObject,
} from "react";
import type { MovingFrame } from "../../drawing/movingOil";
import { Sheet } from "../../drawing/Sheet";
import type { CutAt, Drawing } from "../../drawing/views";
import { Button } from "../../parts/Button";
import { ReadOut } from "../../parts/ReadOut";
import { useSize } from "../../parts/size";
import { CutAway } from "../../scene/CutAway";
import { FIRST_VIEW, ViewChoices, type PanView } from "../../scene/ViewChoices";
import { CutPlaces } from "./CutPlaces";
import type { Moment } from "./moment";

export type PictureKind = "cut-away" | "sections" | "plan";

const KINDS: [PictureKind, string][] = [
  ["cut-away", "Cut away"],
  ["sections", "Sections"],
  ["plan", "Plan"],
];

/** Which picture is on the sheet. */
export function PictureSwitch({
  kind,
  has3d,
  onKind,
}: {
  kind: PictureKind;
  has3d: boolean;
  onKind: (kind: PictureKind) => void;
}): ReactElement {
  return (
    <div role="group" aria-label="Picture of the pan" className="flex shrink-0 border border-ink">
      {KINDS.map(([value, label]) => (
        <button
          key={value}
          type="button"
          aria-pressed={kind === value}
          disabled={value === "cut-away" && !has3d}
          title={value === "cut-away" && !has3d ? "this browser draws nothing in 3D" : undefined}
          onClick={() => onKind(value)}
          className={`h-7 px-3 font-figure text-[14px] font-medium not-first:border-l not-first:border-ink disabled:text-line ${
            kind === value ? "bg-ink text-paper" : "bg-panel"
          }`}
        >
          {label}
        </button>
      ))}
    </div>
  );
}

/** One pan with the oil in it at a moment. */
export interface Pictured {
  /** What it is, where two stand side by side. */
  label: string;
  drawing: Drawing;
  moment: Moment;
  moving: MovingFrame | null;
}

const LABEL = 58; // [px] above each of two

/** One of the pans at its size. */
function Pan({
  pictured: { drawing, moment, moving },
  kind,
  width,
  height,
  stamp,
  view,
  onView,
  beside,
}: {
  pictured: Pictured;
  kind: PictureKind;
  width: number;
  height: number;
  stamp: string;
  view: PanView;
  onView: (change: (view: PanView) => PanView) => void;
  beside: readonly Drawing[] | null;
}): ReactElement {
  const common = {
    drawing,
    oil: moment.oil,
    airy: moment.airy,
    callout: moment.callout,
    words: moment.title,
    width,
    height,
    moving,
    beside,
  };
  return (
    <div
      data-normal={moment.oil.normal.join(" ")}
      data-level-mm={moment.oil.level_mm}
      data-cover-mm={moment.coverMm}
    >
      {kind === "cut-away" ? (
        <CutAway {...common} stamp={stamp} view={view} onView={onView} />
      ) : (
        <Sheet {...common} only={kind === "plan" ? "plan" : null} />
      )}
    </div>
  );
}

/** The pan with the oil as it lies, or two of them; the sentence, and the next step. */
export function Picture({
  shown,
  beside,
  isHeld,
  kind,
  stamp,
  cut,
  onCut,
  next,
  drawn,
  choices,
  onClip,
}: {
  shown: Pictured;
  beside: Pictured | null;
  /** The moving oil is about to be there: not worth painting the settled one for a moment. */
  isHeld: boolean;
  kind: PictureKind;
  /** The moment shown, by which a clip knows when it has been painted. */
  stamp: string;
  cut: CutAt;
  onCut: (cut: CutAt) => void;
  next: { words: string; run: () => void };
  /** The element that holds what a clip is made of. */
  drawn: RefObject<HTMLDivElement | null>;
  /** Further choices beside those of the picture. */
  choices: ReactNode;
  /** Offered where there is a lap to be played. */
  onClip: (() => void) | null;
}): ReactElement {
  const [box, { width, height }] = useSize();
  const [view, setView] = useState(FIRST_VIEW);
  const first = useRef<HTMLDivElement>(null);
  const two = beside !== null && width >= 560;
  const each = two ? Math.floor((width - 1) / 2) : width;
  const tall = Math.max(two ? height - LABEL : height, 300);
  const [one, other] = [shown.drawing, two ? beside.drawing : null];
  const both = useMemo(() => (other ? [one, other] : null), [one, other]);
  const pan = (pictured: Pictured): ReactElement => (
    <Pan
      pictured={pictured}
      kind={kind}
      width={each}
      height={tall}
      stamp={stamp}
      view={view}
      onView={setView}
      beside={both}
    />
  );
  return (
    <div className="flex min-h-[380px] flex-1 flex-col lg:min-h-0">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-6 pt-1 font-figure text-[13px]">
        {kind === "cut-away" && <ViewChoices view={view} onView={setView} />}
        {kind !== "plan" && (kind === "sections" || view.way !== "none") && (
          <CutPlaces
            drawing={shown.drawing}
            views={
              kind === "sections" ? ["side", "front"] : [view.way === "across" ? "front" : "side"]
            }
            cut={cut}
            onCut={onCut}
          />
        )}
        {choices}
      </div>
      <div className="relative flex flex-1 flex-col lg:min-h-0">
        <div
          ref={box}
          className="min-h-[340px] flex-1 overflow-hidden lg:min-h-0 max-sm:overflow-visible"
        >
          <div ref={drawn} data-stamp={stamp} className="flex">
            <div ref={first}>
              {two && <Label pictured={shown} width={each} />}
              {isHeld && (
                <p role="status" className="p-6 text-ink-2">
                  Fetching the moving oil…
                </p>
              )}
              {width > 0 && !isHeld && pan(shown)}
            </div>
            {two && (
              <div className="border-l border-line" data-beside>
                <Label pictured={beside} width={each} />
                {pan(beside)}
              </div>
            )}
          </div>
        </div>
        <div className="flex flex-wrap items-end justify-end gap-x-6 gap-y-2 px-6 pt-1 pb-3">
          {!two && (
            // a height of its own: the drawing above keeps its size while the words change
            <p
              aria-live="polite"
              data-sentence
              title={shown.moment.sentence}
              className="min-w-[260px] flex-1 text-[14px] leading-[19px] lg:line-clamp-3 lg:h-[57px]"
            >
              {shown.moment.sentence}
            </p>
          )}
          <div className="flex items-center gap-2">
            {onClip && (
              <Button className="whitespace-nowrap" onClick={onClip}>
                Save a clip
              </Button>
            )}
            <ReadOut
              name="Pan with the oil as it lies"
              drawing={first}
              backdrop={
                kind === "cut-away"
                  ? () => first.current?.querySelector("canvas") ?? null
                  : undefined
              }
            />
            <Button look="main" className="whitespace-nowrap" onClick={next.run}>
              {next.words}
            </Button>
          </div>
        </div>
      </div>
    </div>
  );
}

/** What one of two pans is, and where its oil lies. */
function Label({ pictured, width }: { pictured: Pictured; width: number }): ReactElement {
  return (
    <div className="px-6 pt-1 leading-[17px]" style={{ width, height: LABEL }}>
      <p
        className="truncate font-figure text-[14px] font-semibold"
        title={pictured.label}
        data-label
      >
        {pictured.label}
      </p>
      <p className="line-clamp-2 text-[13px] text-ink-2" title={pictured.moment.sentence}>
        {pictured.moment.sentence}
      </p>
    </div>
  );
}
