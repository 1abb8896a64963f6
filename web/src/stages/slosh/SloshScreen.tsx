import {
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactElement,
  type RefObject,
} from "react";
import { wordsOf } from "../../api/client";
import { useLaps, useOtherLap, type Slosh } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import type { CutAt } from "../../drawing/views";
import { Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { LapBar } from "../../plots/LapBar";
import { stretchesAbove } from "../../plots/traces";
import { canDraw3d } from "../../scene/fetching";
import { BesideChoice } from "./BesideChoice";
import type { ClipWords } from "./clipPicture";
import { Inspector, type InspectorTab } from "./Inspector";
import { AT_REST } from "./moment";
import { Picture, type PictureKind } from "./Picture";
import { SaveClip } from "./SaveClip";
import { NoLap, Told } from "./Told";
import { useBeside, type Beside } from "./useBeside";
import { useLapAndPad, type LapAndPad } from "./useLapAndPad";
import { useSight, type Sight } from "./useSight";
import { useSloshCommands } from "./useSloshCommands";

/** Stretches of the crank in oil no farther apart are shown as one [s]. */
const CLOSE_S = 0.1;

/** Which picture is wanted, and whether this browser can draw it. */
function useKind(): { kind: PictureKind; has3d: boolean; setKind: (kind: PictureKind) => void } {
  const [has3d] = useState(canDraw3d);
  const [chosen, setKind] = useState<PictureKind>(() =>
    has3d && window.innerWidth >= 640 ? "cut-away" : "sections",
  );
  return { kind: has3d || chosen !== "cut-away" ? chosen : "sections", has3d, setKind };
}

/** The step that the forecast asks for. */
function nextStep(
  slosh: Slosh,
  go: { onLoads: () => void; onNumbers: () => void; onName: () => void },
): { words: string; run: () => void } {
  if (!slosh.lap) return { words: "Import a lap", run: go.onLoads };
  if (slosh.verdict.state === "not_safe" || slosh.verdict.state === "caution")
    return { words: "Try more oil or depth", run: go.onNumbers };
  return { words: "Name this revision", run: go.onName };
}

/** What a clip says in each of its pictures, kept as it changes. */
function useClipWords({ moment }: Sight): RefObject<ClipWords> {
  const { build, forecast } = useBuildView();
  const note = forecast.shown?.model_note;
  const told = useRef<ClipWords>({ build: "", title: "", words: "", note: "" });
  useLayoutEffect(() => {
    if (!moment || note === undefined) return;
    const { title, words } = moment;
    told.current = { build: build.name, title, words, note };
  }, [moment, note, build.name]);
  return told;
}

/** The pan with the oil in it, what is said of it, and the next step. */
function ThePan({
  at,
  sight,
  beside,
  choices,
  look,
  cut,
  onCut,
  drawn,
  onClip,
  onNumbers,
}: {
  at: LapAndPad;
  sight: Sight;
  beside: Beside;
  choices: ReactElement;
  look: ReturnType<typeof useKind>;
  cut: CutAt;
  onCut: (cut: CutAt) => void;
  drawn: RefObject<HTMLDivElement | null>;
  onClip: () => void;
  onNumbers: () => void;
}): ReactElement {
  const { build, forecast, go, openHistory } = useBuildView();
  const { settled, shown } = forecast;
  const { moment, moving, drawing } = sight;
  if (!moment || !shown || !drawing)
    return (
      <section aria-label="The pan" className="flex min-w-0 flex-1 flex-col">
        <Waiting
          error={settled.error ? wordsOf(settled.error) : null}
          what="the forecast"
          onRetry={() => void settled.refetch()}
        />
      </section>
    );
  const onLap = shown.lap !== null && !at.steady;
  const dry = shown.lap ? `dry ${shown.lap.dry_s.toFixed(1)} s · ` : "";
  const oil = at.steady ? "pad" : moving ? "moving" : "settled";
  return (
    <section aria-label="The pan" className="flex min-w-0 flex-1 flex-col">
      <Told
        sight={sight}
        moment={moment}
        note={`${shown.model_note} ${shown.circuit_note}`.trim()}
        kind={look.kind}
        has3d={look.has3d}
        onKind={look.setKind}
      />
      <Picture
        shown={{ label: `${dry}${build.name}, as it stands`, drawing, moment, moving }}
        beside={at.steady ? null : beside.pictured}
        isHeld={sight.isHeld}
        kind={look.kind}
        stamp={`${at.time.toFixed(3)} ${oil}`}
        cut={cut}
        onCut={onCut}
        drawn={drawn}
        choices={onLap && choices}
        onClip={onLap ? onClip : null}
        next={nextStep(shown, { onLoads: () => go("loads"), onNumbers, onName: openHistory })}
      />
    </section>
  );
}

/** The lap laid out below the picture, another over it if wanted; or that there is none. */
function TheLap({ at, beside }: { at: LapAndPad; beside: Beside }): ReactElement | null {
  const { limits } = useSettings();
  const { build, edit, forecast } = useBuildView();
  const { shown, figures, moves } = forecast;
  const [overId, setOverId] = useState<number | null>(null);
  const laps = useLaps();
  const over = useOtherLap(build, overId);
  const crank = useMemo(
    () =>
      figures && moves
        ? stretchesAbove(figures.samples.time_s, figures.samples.crank_l, limits.splashL, CLOSE_S)
        : [],
    [figures, moves, limits.splashL],
  );
  if (!shown) return null;
  if (!shown.lap) return <NoLap />;
  return (
    <>
      {over.error && (
        <p role="alert" className="border-t border-ink bg-panel px-4 py-1 text-[13px] text-bad">
          The other lap could not be laid over: {wordsOf(over.error)}
        </p>
      )}
      <LapBar
        lap={shown.lap}
        crank={crank}
        over={beside.lap ?? (overId === shown.lap.lap_id ? null : (over.data ?? null))}
        laps={laps.data ?? []}
        time={at.time}
        faint={at.pad !== null}
        play={at.play}
        onTime={at.goTo}
        onLap={(lapId) => edit.mutate({ kind: "lap", lapId })}
        onOver={setOverId}
      />
    </>
  );
}

/** The pan with the oil as it lies at a moment or under a load, the dips, and the numbers behind. */
export function SloshScreen(): ReactElement {
  const { build, forecast } = useBuildView();
  const { shown, latest, moves } = forecast;
  const lap = shown?.lap ?? null;
  const at = useLapAndPad(lap);
  const [cut, setCut] = useState<CutAt>({ side: null, front: null });
  const sight = useSight(at, cut);
  const look = useKind();
  const [tab, setTab] = useState<InspectorTab>("dips");
  const [besideId, setBesideId] = useState<number | null>(null);
  const shownId = latest?.finished?.id ?? null;
  const beside = useBeside({ wantedId: besideId, shownId, lap, time: at.time, moves, cut });
  const drawn = useRef<HTMLDivElement>(null);
  const [clipping, setClipping] = useState(false);
  const told = useClipWords(sight);
  const onClip = (): void => {
    at.hold();
    setClipping(true);
  };
  const load = sight.moment?.load ?? AT_REST;
  const { setKind } = look;
  useSloshCommands({ ...at, slosh: shown, load, setKind, setTab, onClip });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <ThePan
          at={at}
          sight={sight}
          beside={beside}
          choices={<BesideChoice beside={beside} wantedId={besideId} onWanted={setBesideId} />}
          look={look}
          cut={cut}
          onCut={setCut}
          drawn={drawn}
          onClip={onClip}
          onNumbers={() => setTab("numbers")}
        />
        <Inspector
          tab={tab}
          onTab={setTab}
          moment={sight.moment}
          steady={at.steady}
          time={at.time}
          onLoad={at.setPad}
          onBack={() => at.setPad(null)}
          onTime={at.goTo}
        />
      </div>
      {clipping && lap && (
        <SaveClip
          name={build.name}
          time={at.time}
          duration={at.duration}
          drawn={drawn}
          told={told}
          onTime={at.goTo}
          onClose={() => setClipping(false)}
        />
      )}
      <TheLap at={at} beside={beside} />
    </div>
  );
}
