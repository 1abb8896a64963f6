import { useMemo, useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { usePressure, type PressureStage } from "../../api/pressure";
import { useLaps } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { isDrySump } from "../../document/circuit/circuit";
import { Numbers } from "../../document/Numbers";
import { useLapTime, type LapTime } from "../../document/useLapTime";
import { MovingOil } from "../../document/MovingOil";
import { useMovingFrame } from "../../document/useMovingFrame";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { pressureAs, volumeAs } from "../../parts/units";
import { LapBar } from "../../plots/LapBar";
import { nearestIndex } from "../../plots/traces";
import { CircuitDrawing } from "./CircuitDrawing";
import { CoolingPage } from "./CoolingPage";
import { Designer } from "./Designer";
import { DipsOfPressure } from "./DipsOfPressure";
import { lanesOf, type Lane } from "./lanes";
import { lapTable } from "./lapTable";
import { MomentTable } from "./MomentTable";
import type { PictureKind, Tab } from "./picture";
import { PressureStrip } from "./PressureStrip";
import { SupplyPage } from "./SupplyPage";
import { toldAt } from "./sentence";
import { Traces } from "./Traces";
import { usePressureCommands } from "./usePressureCommands";

const KINDS: readonly (readonly [PictureKind, string])[] = [
  ["circuit", "Circuit"],
  ["traces", "Traces"],
  ["table", "Table"],
];
/** The narrowest that the circuit is drawn [px]: on less it is moved under the finger. */
const NARROWEST = 680;
/** The lowest [px]. */
const LOWEST = 372;

function Switch({
  kind,
  onKind,
}: {
  kind: PictureKind;
  onKind: (kind: PictureKind) => void;
}): ReactElement {
  return (
    <div
      role="group"
      aria-label="Picture of the circuit"
      className="flex shrink-0 border border-ink"
    >
      {KINDS.map(([value, label]) => (
        <button
          key={value}
          type="button"
          aria-pressed={kind === value}
          onClick={() => onKind(value)}
          className={`h-7 px-3 font-figure text-[14px] font-medium not-first:border-l not-first:border-ink ${
            kind === value ? "bg-ink text-paper" : "bg-panel"
          }`}
        >
          {label}
        </button>
      ))}
    </div>
  );
}

/** Above the picture: the moment in words, and what the figures rest on. */
function Head({
  stage,
  time,
  kind,
  isBefore,
  onKind,
}: {
  stage: PressureStage;
  time: number;
  kind: PictureKind;
  /** It is of the state before: this one's is being worked out. */
  isBefore: boolean;
  onKind: (kind: PictureKind) => void;
}): ReactElement {
  const settings = useSettings();
  const { build, forecast } = useBuildView();
  const lap = forecast.shown?.lap ?? null;
  const told = toldAt(
    stage,
    lap,
    time,
    build.document.oil.temperature_c,
    settings.limits.dipShare,
    settings,
    isDrySump(build.document.circuit),
  );
  const { basis } = stage;
  const isOwn = basis.kind === "own" && !isBefore;
  const rests = isBefore ? "As it was before this change; being worked out anew." : basis.words;
  return (
    <div className="px-6 pt-3">
      <div className="flex items-start justify-between gap-x-4 gap-y-1 max-sm:flex-wrap">
        <h1 className="min-w-0 font-figure text-[22px] leading-7 font-semibold">
          {bound(told.title)}
        </h1>
        <Switch kind={kind} onKind={onKind} />
      </div>
      <p className="font-figure text-[14px] text-ink-2">{told.words}</p>
      <p
        className="flex items-start gap-2 text-[13px] text-ink-2"
        data-basis={isBefore ? "before" : basis.kind}
      >
        <Mark state={isOwn ? "started" : "caution"} size={16} />
        <span className="min-w-0 flex-1">
          {rests} {told.sentence}
        </span>
      </p>
      {forecast.latest && lap && <MovingOil latest={forecast.latest} isBrief />}
    </div>
  );
}

/** The circuit, the traces or the table. */
function Picture({
  stage,
  lanes,
  at,
  kind,
}: {
  stage: PressureStage;
  lanes: readonly Lane[];
  at: LapTime;
  kind: PictureKind;
}): ReactElement {
  const { build, forecast } = useBuildView();
  const [box, { width, height }] = useSize();
  const drawn = useRef<HTMLDivElement>(null);
  const { shown, settled, figures } = forecast;
  const runId = stage.basis.kind === "own" ? stage.basis.run_id : null;
  const { moving } = useMovingFrame(
    runId,
    runId !== null && forecast.moves ? figures : null,
    at.time,
  );
  const samples = (shown ?? settled.data)?.lap?.samples;
  const index = samples ? nearestIndex(samples.time_s, at.time) : 0;
  const drawing = shown?.drawing;
  const names = useNames();
  const settings = useSettings();
  const isDry = isDrySump(build.document.circuit);
  const table = useMemo(() => () => lapTable(stage, names, isDry), [stage, names, isDry]);
  if (kind === "table") return <MomentTable stage={stage} time={at.time} />;
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        ref={box}
        role="group"
        tabIndex={0}
        aria-label="The picture"
        className="min-h-[400px] flex-1 overflow-x-auto overflow-y-hidden lg:min-h-0"
      >
        <div ref={drawn} className="flex h-full">
          {kind === "traces" && (
            <Traces stage={stage} lanes={lanes} time={at.time} onTime={at.goTo} />
          )}
          {kind === "circuit" && drawing && width > 0 && (
            <CircuitDrawing
              stage={stage}
              drawing={drawing}
              oil={
                samples
                  ? {
                      normal: samples.normals[index] ?? [0, 0, 1],
                      level_mm: samples.level_mm[index] ?? 0,
                    }
                  : drawing.standing
              }
              moving={moving}
              time={at.time}
              width={Math.max(width, NARROWEST)}
              height={Math.max(height, LOWEST)}
              words={`The circuit at ${at.time.toFixed(1)} s, gallery ${pressureAs(settings.units, settings.system, stage.pressure.lowest_bar).figure} at the least over the lap`}
            />
          )}
        </div>
      </div>
      <div className="absolute right-4 bottom-2">
        <ReadOut name="Oil circuit" table={table} drawing={drawn} />
      </div>
    </div>
  );
}

/** Names of the circuit's parts by their ids. */
function useNames(): ReadonlyMap<string, string> {
  const { components } = useBuildView().build.document.circuit;
  return useMemo(() => new Map(components.map(({ id, name }) => [id, name])), [components]);
}

/** The lap laid out below, or that there is none. */
function TheLap({
  stage,
  lanes,
  at,
}: {
  stage: PressureStage;
  lanes: readonly Lane[];
  at: LapTime;
}): ReactElement {
  const { build, edit, forecast, go } = useBuildView();
  const laps = useLaps();
  const names = useNames();
  const lap = forecast.shown?.lap;
  if (!lap)
    return (
      <section className="flex flex-wrap items-center gap-4 border-t-2 border-ink bg-panel px-6 py-5">
        <p>No lap yet: import one to see what the gallery has, corner by corner.</p>
        <Button look="main" onClick={() => go("loads")}>
          Import a lap
        </Button>
      </section>
    );
  return (
    <LapBar
      lap={lap}
      over={null}
      crank={[]}
      laps={laps.data ?? []}
      time={at.time}
      faint={false}
      play={at.play}
      dips={stage.pressure.dips.map(({ lowest_at_s: worst_s }) => ({ worst_s }))}
      table={() => lapTable(stage, names, isDrySump(build.document.circuit))}
      onTime={at.goTo}
      onLap={(lapId) => edit.mutate({ kind: "lap", lapId })}
    >
      <PressureStrip lap={lap} stage={stage} lanes={lanes} time={at.time} onTime={at.goTo} />
    </LapBar>
  );
}

/** The circuit over the lap, what a bottle would do, and the circuit's numbers. */
function Shown({
  stage,
  runId,
  isBefore,
}: {
  stage: PressureStage;
  runId: number | null;
  /** It is of the state before: this one's is being worked out. */
  isBefore: boolean;
}): ReactElement {
  const settings = useSettings();
  const { forecast } = useBuildView();
  const at = useLapTime(stage.duration_s, stage.pressure.lowest_at_s);
  const [kind, setKind] = useState<PictureKind>(() =>
    window.innerWidth < 640 ? "traces" : "circuit",
  );
  const [tab, setTab] = useState<Tab>("bottle");
  const { system, units } = settings;
  const lanes = useMemo(
    () =>
      lanesOf(stage, settings.limits.dipShare, {
        bar: (value) => pressureAs(units, system, value),
        litres: (value) => volumeAs(units, system, value),
      }),
    [stage, settings.limits.dipShare, system, units],
  );
  usePressureCommands({ stage, at, setKind, setTab });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="The circuit" className="flex min-w-0 flex-1 flex-col">
          <Head stage={stage} time={at.time} kind={kind} isBefore={isBefore} onKind={setKind} />
          <Picture stage={stage} lanes={lanes} at={at} kind={kind} />
        </section>
        <InspectorTabs
          shown={tab}
          onShow={setTab}
          pages={[
            {
              key: "bottle",
              label: "Bottle",
              content: <Designer stage={stage} runId={runId} onTime={at.goTo} />,
            },
            { key: "supply", label: "Supply", content: <SupplyPage /> },
            { key: "cooling", label: "Cooling", content: <CoolingPage runId={runId} /> },
            {
              key: "dips",
              label: "Dips",
              content: (
                <DipsOfPressure
                  stage={stage}
                  holds={stage.basis.kind === "own" && !isBefore}
                  time={at.time}
                  onTime={at.goTo}
                />
              ),
            },
            {
              key: "numbers",
              label: "Numbers",
              content: <Numbers drawing={forecast.shown?.drawing ?? null} lead="circuit" />,
            },
          ]}
        />
      </div>
      <TheLap stage={stage} lanes={lanes} at={at} />
    </div>
  );
}

/** Gallery pressure over the lap: the circuit drawn, traces, the accumulator. */
export function PressureScreen(): ReactElement {
  const { build, forecast } = useBuildView();
  const runId = forecast.latest?.finished?.id ?? null;
  const query = usePressure(build, runId);
  if (!query.data)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the circuit"
        onRetry={() => void query.refetch()}
      />
    );
  return (
    <>
      {query.error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="This is the last circuit that could be run">
            {wordsOf(query.error)}
          </Notice>
        </div>
      )}
      <Shown stage={query.data} runId={runId} isBefore={query.isPlaceholderData} />
    </>
  );
}
