import type { UseMutationResult, UseQueryResult } from "@tanstack/react-query";
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactElement,
} from "react";
import { wordsOf } from "../../api/client";
import { useLaps, useOtherLap, type BuildOut, type Edit, type Slosh } from "../../api/queries";
import type { Latest, Moving } from "../../api/runs";
import type { CutAt } from "../../drawing/views";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { LapBar } from "../../plots/LapBar";
import type { Load } from "../../plots/rose";
import { stretchesAbove } from "../../plots/traces";
import { usePlay } from "../../plots/usePlay";
import { canDraw3d } from "../../scene/CutAway";
import { BesideChoice } from "./BesideChoice";
import type { ClipWords } from "./clipPicture";
import { Inspector, type InspectorTab } from "./Inspector";
import { MovingOil } from "./MovingOil";
import { AT_REST, momentOf, padMoment, type Moment } from "./moment";
import { Picture, PictureSwitch, type PictureKind } from "./Picture";
import { SaveClip } from "./SaveClip";
import { useBeside } from "./useBeside";
import { useCut } from "./useCut";
import { SMALL_L } from "./movingSentence";
import { useSloshCommands } from "./useSloshCommands";
import { useMovingOil } from "./useMovingOil";

/** Stretches of the crank in oil no farther apart are shown as one [s]. */
const CLOSE_S = 0.1;

/** How long the first picture waits for the moving oil rather than to show settled oil [ms]. */
const WAIT = 700;

/** Whether the screen has only just been opened. */
function useFirstMoments(): boolean {
  const [isFirst, setFirst] = useState(true);
  useEffect(() => {
    const timer = window.setTimeout(() => setFirst(false), WAIT);
    return () => window.clearTimeout(timer);
  }, []);
  return isFirst;
}

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
        <h1 className="font-figure text-[22px] leading-7 font-semibold">{moment.title}</h1>
        {children}
      </div>
      <p className="font-figure text-[14px] text-ink-2">{moment.words}</p>
      <p className="flex items-start gap-2 text-[13px] text-ink-2">
        <Mark state="caution" size={16} />
        <span>{note}</span>
      </p>
    </div>
  );
}

function NoLap({ onLoads }: { onLoads: () => void }): ReactElement {
  return (
    <section className="flex flex-wrap items-center gap-4 border-t-2 border-ink bg-panel px-6 py-6">
      <p>
        No lap yet: drag the load on the cover rose to tip the oil, or import a lap to see where it
        runs dry.
      </p>
      <Button look="main" onClick={onLoads}>
        Import a lap
      </Button>
    </section>
  );
}

/** The step that the forecast asks for. */
function nextStep(
  slosh: Slosh,
  go: { onLoads: () => void; onNumbers: () => void; onName: () => void },
): { words: string; run: () => void } {
  if (!slosh.lap) return { words: "Import a lap", run: go.onLoads };
  if (slosh.verdict.state === "runs_dry" || slosh.verdict.state === "draws_air")
    return { words: "Try more oil or depth", run: go.onNumbers };
  return { words: "Name this revision", run: go.onName };
}

/** The pan with the oil as it lies at a moment or under a load, the dips, and the numbers behind. */
export function SloshScreen({
  build,
  slosh,
  shown,
  latest,
  figures,
  moves,
  onMoves,
  edit,
  onLoads,
  onName,
}: {
  build: BuildOut;
  slosh: UseQueryResult<Slosh>;
  /** The forecast with the figures of moving oil in it, where they are known and wanted. */
  shown: Slosh | undefined;
  latest: Latest | undefined;
  /** Of the finest finished run. */
  figures: Moving | null;
  moves: boolean;
  onMoves: (moves: boolean) => void;
  edit: UseMutationResult<BuildOut, Error, Edit>;
  onLoads: () => void;
  onName: () => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [picked, setPicked] = useState<number | null>(null);
  const [pad, setPad] = useState<Load | null>(null);
  const [has3d] = useState(canDraw3d);
  const [chosen, setKind] = useState<PictureKind>(() =>
    has3d && window.innerWidth >= 640 ? "cut-away" : "sections",
  );
  const kind = has3d ? chosen : chosen === "cut-away" ? "sections" : chosen;
  const [tab, setTab] = useState<InspectorTab>("dips");
  const [overId, setOverId] = useState<number | null>(null);
  const laps = useLaps();
  const over = useOtherLap(build, overId);
  const data = shown;
  const lap = data?.lap ?? null;
  const duration = lap?.duration_s ?? 0;
  const time = Math.min(picked ?? lap?.dips[0]?.worst_s ?? lap?.least_cover_at_s ?? 0, duration);
  const goTo = useCallback((to: number) => {
    setPad(null);
    setPicked(to);
  }, []);
  const play = usePlay(duration, time, goTo);
  const steady = pad !== null || !lap;
  const lies = data
    ? lap && !pad
      ? momentOf(data, lap, time, data !== slosh.data, system, units)
      : padMoment(data, pad ?? AT_REST, system, units)
    : null;
  const [cut, setCut] = useState<CutAt>({ side: null, front: null });
  const shownId = latest?.finished?.id ?? null;
  const {
    moving,
    moment,
    error: noFrames,
  } = useMovingOil({
    slosh: data,
    figures: moves && !steady ? figures : null,
    runId: moves ? shownId : null,
    time,
    lies,
  });
  const isAwaited = moves && !steady && !moving && (!latest || (shownId !== null && !noFrames));
  const isFirst = useFirstMoments();
  const drawing = useCut(data?.drawing, build.id, data?.state ?? null, cut);
  const [besideId, setBesideId] = useState<number | null>(null);
  const beside = useBeside({ wantedId: besideId, shownId, lap, time, moves, cut });
  const crank = useMemo(
    () =>
      figures && moves
        ? stretchesAbove(figures.samples.time_s, figures.samples.crank_l, SMALL_L, CLOSE_S)
        : [],
    [figures, moves],
  );
  const drawn = useRef<HTMLDivElement>(null);
  const [clipping, setClipping] = useState(false);
  const told = useRef<ClipWords>({ build: "", title: "", words: "", note: "" });
  useLayoutEffect(() => {
    if (!moment || !data) return;
    const { title, words } = moment;
    told.current = { build: build.name, title, words, note: data.model_note };
  }, [moment, data, build.name]);
  // a lap that plays on would take each moment away before it is painted
  const openClip = (): void => {
    if (play.playing) play.toggle();
    setPad(null);
    setClipping(true);
  };
  const toPad = useCallback((load: Load | null) => setPad(load), []);
  useSloshCommands({
    slosh: data,
    time,
    load: moment?.load ?? AT_REST,
    play,
    setPad: toPad,
    goTo,
    setKind,
    setTab,
    onClip: openClip,
  });
  const { playing, toggle } = play;
  useEffect(() => {
    if (pad && playing) toggle();
  }, [pad, playing, toggle]);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="The pan" className="flex min-w-0 flex-1 flex-col">
          {moment && data && drawing ? (
            <>
              <Headline
                moment={moment}
                note={noteOf(data.model_note, moving !== null, moves && figures !== null)}
              >
                <PictureSwitch kind={kind} has3d={has3d} onKind={setKind} />
              </Headline>
              {slosh.error && (
                <div className="px-6 pt-2">
                  <Notice kind="bad" title="This is the last forecast that could be made">
                    {wordsOf(slosh.error)}
                  </Notice>
                </div>
              )}
              {noFrames && moves && (
                <p role="alert" className="px-6 text-[13px] text-bad">
                  {wordsOf(noFrames)}
                </p>
              )}
              {latest && lap && !slosh.isPlaceholderData && (
                <MovingOil
                  build={build}
                  latest={latest}
                  figures={figures}
                  settledDry={slosh.data?.lap?.dry_s ?? 0}
                  moves={moves}
                  onMoves={onMoves}
                />
              )}
              <Picture
                shown={{
                  label: `${lap ? `dry ${lap.dry_s.toFixed(1)} s · ` : ""}${build.name}, as it stands`,
                  drawing,
                  moment,
                  moving,
                }}
                beside={steady ? null : beside.pictured}
                isHeld={isAwaited && isFirst}
                kind={kind}
                stamp={`${time.toFixed(3)} ${steady ? "pad" : moving ? "moving" : "settled"}`}
                cut={cut}
                onCut={setCut}
                drawn={drawn}
                choices={
                  lap &&
                  !steady && (
                    <BesideChoice beside={beside} wantedId={besideId} onWanted={setBesideId} />
                  )
                }
                onClip={lap && !steady ? openClip : null}
                next={nextStep(data, { onLoads, onNumbers: () => setTab("numbers"), onName })}
              />
            </>
          ) : (
            <Waiting
              error={slosh.error ? wordsOf(slosh.error) : null}
              what="the forecast"
              onRetry={() => void slosh.refetch()}
            />
          )}
        </section>
        <Inspector
          tab={tab}
          onTab={setTab}
          build={build}
          edit={edit}
          slosh={data}
          settled={data !== slosh.data ? (slosh.data?.lap ?? null) : null}
          moment={moment}
          steady={steady}
          time={time}
          onLoad={toPad}
          onBack={() => setPad(null)}
          onTime={goTo}
        />
      </div>
      {clipping && lap && (
        <SaveClip
          name={build.name}
          time={time}
          duration={duration}
          drawn={drawn}
          told={told}
          onTime={goTo}
          onClose={() => setClipping(false)}
        />
      )}
      {over.error && (
        <p role="alert" className="border-t border-ink bg-panel px-4 py-1 text-[13px] text-bad">
          The other lap could not be laid over: {wordsOf(over.error)}
        </p>
      )}
      {data &&
        (lap ? (
          <LapBar
            lap={lap}
            crank={crank}
            over={beside.lap ?? (overId === lap.lap_id ? null : (over.data ?? null))}
            laps={laps.data ?? []}
            time={time}
            faint={pad !== null}
            play={play}
            onTime={goTo}
            onLap={(lapId) => edit.mutate({ kind: "lap", lapId })}
            onOver={setOverId}
          />
        ) : (
          <NoLap onLoads={onLoads} />
        ))}
    </div>
  );
}
