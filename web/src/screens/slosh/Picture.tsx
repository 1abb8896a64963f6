import { useRef, type ReactElement } from "react";
import type { Slosh } from "../../api/queries";
import { Sheet } from "../../drawing/Sheet";
import { layoutWide } from "../../drawing/views";
import { Button } from "../../parts/Button";
import { ReadOut } from "../../parts/ReadOut";
import { useSize } from "../../parts/size";
import { CutAway } from "../../scene/CutAway";
import type { MovingFrame } from "../../scene/PanScene";
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

/** The pan with the oil as it lies, the sentence, and the next step. */
export function Picture({
  slosh,
  moment,
  kind,
  moving,
  next,
}: {
  slosh: Slosh;
  moment: Moment;
  kind: PictureKind;
  moving: MovingFrame | null;
  next: { words: string; run: () => void };
}): ReactElement {
  const [box, { width, height }] = useSize();
  const drawn = useRef<HTMLDivElement>(null);
  // the words stand over the front section, where the three views leave room
  const wide = kind === "sections" && width >= 700;
  const front = wide ? layoutWide(slosh.drawing, width, Math.max(height, 320)).at(-1) : undefined;
  const column = front ? Math.round(front.x + front.box.left * front.scale) : null;
  const common = {
    drawing: slosh.drawing,
    oil: moment.oil,
    airy: moment.airy,
    callout: moment.callout,
    words: moment.title,
    width,
  };
  return (
    <div className="relative flex min-h-[380px] flex-1 flex-col lg:min-h-0">
      <div
        ref={box}
        className="min-h-[380px] flex-1 overflow-hidden lg:min-h-0 max-sm:overflow-visible"
      >
        <div
          ref={drawn}
          data-normal={moment.oil.normal.join(" ")}
          data-level-mm={moment.oil.level_mm}
          data-cover-mm={moment.coverMm}
        >
          {width > 0 &&
            (kind === "cut-away" ? (
              <CutAway {...common} height={Math.max(height, 320)} moving={moving} />
            ) : (
              <Sheet
                {...common}
                height={Math.max(height, 320)}
                only={kind === "plan" ? "plan" : null}
              />
            ))}
        </div>
      </div>
      <div
        className={`flex flex-col items-end gap-3 px-6 pb-3 lg:pointer-events-none lg:absolute lg:right-0 ${
          kind === "sections" ? "lg:top-[104px] lg:px-0" : "lg:bottom-0 lg:max-w-[340px]"
        }`}
        style={column === null ? undefined : { left: column, right: 24 }}
      >
        <p
          aria-live="polite"
          data-sentence
          className={`text-[14px] leading-snug ${kind === "sections" ? "w-full" : "lg:text-right"}`}
        >
          {moment.sentence}
        </p>
        <div className="pointer-events-auto flex items-center gap-2">
          <ReadOut
            name="Pan with the oil as it lies"
            drawing={drawn}
            backdrop={
              kind === "cut-away" ? () => drawn.current?.querySelector("canvas") ?? null : undefined
            }
          />
          <Button look="main" className="whitespace-nowrap" onClick={next.run}>
            {next.words}
          </Button>
        </div>
      </div>
    </div>
  );
}
