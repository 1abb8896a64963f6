import type { ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useBuildView } from "../../document/BuildContext";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { MovingOil } from "../../document/MovingOil";
import { PictureSwitch, type PictureKind } from "./Picture";
import type { Moment } from "./moment";
import type { Sight } from "./useSight";

/** Which oil the figures are of, and the picture where that is another one. */
function noteOf(note: string, pictureMoves: boolean, figuresMove: boolean): string {
  return figuresMove && !pictureMoves ? `${note} The picture shows settled oil.` : note;
}

function Headline({
  moment,
  note,
  children,
}: {
  moment: Moment;
  note: string;
  children: ReactElement;
}): ReactElement {
  return (
    <div className="px-6 pt-3">
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1">
        <h1 className="font-figure text-[22px] leading-7 font-semibold">{bound(moment.title)}</h1>
        {children}
      </div>
      <p className="font-figure text-[14px] text-ink-2">
        <InUnits words={moment.words} />
      </p>
      <p className="flex items-start gap-2 text-[13px] text-ink-2">
        <Mark state="caution" size={16} />
        <span>{note}</span>
      </p>
    </div>
  );
}

/** Above the picture: the moment in words, which oil it is, what could not be had, the runs. */
export function Told({
  sight,
  moment,
  note,
  kind,
  has3d,
  onKind,
}: {
  sight: Sight;
  moment: Moment;
  note: string;
  kind: PictureKind;
  has3d: boolean;
  onKind: (kind: PictureKind) => void;
}): ReactElement {
  const { settled, shown, latest, figures, moves } = useBuildView().forecast;
  return (
    <>
      <Headline
        moment={moment}
        note={noteOf(note, sight.moving !== null, moves && figures !== null)}
      >
        <PictureSwitch kind={kind} has3d={has3d} onKind={onKind} />
      </Headline>
      {settled.error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="This is the last forecast that could be made">
            {wordsOf(settled.error)}
          </Notice>
        </div>
      )}
      {sight.error && (
        <p role="alert" className="px-6 text-[13px] text-bad">
          {wordsOf(sight.error)}
        </p>
      )}
      {latest && shown?.lap && !settled.isPlaceholderData && <MovingOil latest={latest} />}
    </>
  );
}

/** Below the picture where there is no lap to lay out. */
export function NoLap(): ReactElement {
  const { go } = useBuildView();
  return (
    <section className="flex flex-wrap items-center gap-4 border-t-2 border-ink bg-panel px-6 py-6">
      <p>
        No lap yet: drag the load on the cover rose to tip the oil, or import a lap to see where it
        runs dry.
      </p>
      <Button look="main" onClick={() => go("loads")}>
        Import a lap
      </Button>
    </section>
  );
}
