import { Suspense, useCallback, useEffect, useState, type ReactElement } from "react";
import { useNavigate, useParams } from "react-router";
import { wordsOf } from "../api/client";
import { useBuild, useEdit, type BuildOut, type Conflict, type Session } from "../api/queries";
import { BuildContext, type BuildView } from "../document/BuildContext";
import { useForecast } from "../document/useForecast";
import { CommandProvider } from "../parts/commands";
import { Waiting } from "../parts/Notice";
import { Boxes } from "./Boxes";
import { EditNotices } from "./EditNotices";
import { HeadStrip } from "./HeadStrip";
import { RailColumn, RailDrawer } from "./JobRail";
import { NoSuchStage } from "./NoSuchStage";
import { HOME, SCREENS, stageOf } from "./registry";
import { ScreenFault } from "./ScreenFault";
import { useAutomaticRun } from "./useAutomaticRun";
import { useFrameCommands, type Box } from "./useFrameCommands";
import { useKeys } from "./useKeys";

/** How long the screen's own picture has before what can wait is asked for [ms]. */
const CALM_AFTER = 700;

/** Whether what came first has been there for a moment, and its picture painted. */
function useCalm(isThere: boolean): boolean {
  const [isCalm, setCalm] = useState(false);
  useEffect(() => {
    if (!isThere) return undefined;
    const timer = window.setTimeout(() => setCalm(true), CALM_AFTER);
    return () => window.clearTimeout(timer);
  }, [isThere]);
  return isCalm && isThere;
}

/** The moment picked on a lap: one for all screens, forgotten with the lap. */
function usePicked(lapId: number | null): Pick<BuildView, "picked" | "pick"> {
  const [moment, setMoment] = useState<{ lapId: number | null; time: number } | null>(null);
  const pick = useCallback((time: number) => setMoment({ lapId, time }), [lapId]);
  return { picked: moment?.lapId === lapId ? moment.time : null, pick };
}

/** The screen of a stage. */
function StageScreen({ stageKey }: { stageKey: string }): ReactElement {
  const stage = stageOf(stageKey);
  const Screen = SCREENS[stageKey];
  useEffect(() => stage?.warm?.(), [stage]);
  if (!Screen) return <NoSuchStage />;
  return (
    <ScreenFault key={stageKey}>
      <Suspense fallback={<Waiting error={null} what="the screen" onRetry={() => undefined} />}>
        <Screen />
      </Suspense>
    </ScreenFault>
  );
}

/** What stands round a screen: head, rail, and what became of edits. */
function Around({
  session,
  conflict,
  joined,
  onSettled,
  onBox,
  buildId,
  stageKey,
}: {
  session: Session;
  conflict: Conflict | null;
  joined: string | null;
  onSettled: () => void;
  onBox: (box: Box) => void;
  buildId: number;
  stageKey: string;
}): ReactElement {
  return (
    <div className="flex min-h-full flex-col lg:h-full lg:overflow-hidden">
      {stageOf(stageKey)?.isBench ? (
        <div className="hidden md:block">
          <HeadStrip session={session} />
        </div>
      ) : (
        <HeadStrip session={session} />
      )}
      <div className="flex min-h-0 flex-1">
        <RailColumn buildId={buildId} onBox={onBox} />
        <main className="flex min-w-0 flex-1 flex-col pb-[50px] md:pb-0">
          <EditNotices conflict={conflict} joined={joined} onSettled={onSettled} />
          <StageScreen stageKey={stageKey} />
        </main>
      </div>
      <RailDrawer buildId={buildId} stageKey={stageKey} />
    </div>
  );
}

/** The build of the address, its forecast and its acts; null until it has come. */
function useView(
  build: BuildOut | undefined,
  onConflict: (conflict: Conflict) => void,
  onJoined: (words: string | null) => void,
  onBox: (box: Box) => void,
): BuildView | null {
  const navigate = useNavigate();
  const id = build?.id ?? 0;
  const forecast = useForecast(build);
  const isCalm = useCalm(forecast.settled.data !== undefined && !forecast.settled.isFetching);
  const edit = useEdit(id, onConflict, (saved) => onJoined(saved.joined));
  const go = useCallback(
    (stage: string) => void navigate(`/builds/${id}/${stage}`),
    [navigate, id],
  );
  const { picked, pick } = usePicked(build?.lap_id ?? null);
  const openHistory = useCallback(() => onBox("history"), [onBox]);
  return build ? { build, edit, forecast, isCalm, picked, pick, go, openHistory } : null;
}

function Frame({ session }: { session: Session }): ReactElement {
  const { buildId, stage: stageKey = HOME } = useParams();
  const id = Number(buildId);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [joined, setJoined] = useState<string | null>(null);
  const [box, setBox] = useState<Box>(null);
  const build = useBuild(id);
  const view = useView(build.data, setConflict, setJoined, setBox);
  useAutomaticRun(build.data);
  useFrameCommands(build.data, (edit) => view?.edit.mutate(edit), setBox);
  useKeys(box === null);
  if (!view)
    return (
      <Waiting
        error={build.error ? wordsOf(build.error) : null}
        what="the build"
        onRetry={() => void build.refetch()}
      />
    );
  return (
    <BuildContext value={view}>
      <Around
        session={session}
        conflict={conflict}
        joined={joined}
        onSettled={() => {
          setConflict(null);
          setJoined(null);
        }}
        onBox={setBox}
        buildId={id}
        stageKey={stageKey}
      />
      <Boxes box={box} onClose={() => setBox(null)} />
    </BuildContext>
  );
}

/** One build: head strip, job rail, and the stage's screen. */
export function BuildFrame({ session }: { session: Session }): ReactElement {
  return (
    <CommandProvider>
      <Frame session={session} />
    </CommandProvider>
  );
}
