import { useMemo, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  useDrains,
  useDrainsAt,
  type Assumed,
  type Drain,
  type DrainsStage,
} from "../../api/drains";
import { useLaps } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { useLapTime, type LapTime } from "../../document/useLapTime";
import { Button } from "../../parts/Button";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Notice, Waiting } from "../../parts/Notice";
import { LapBar } from "../../plots/LapBar";
import type { Load } from "../../plots/rose";
import { nearestIndex } from "../../plots/traces";
import { DrainHead } from "./DrainHead";
import { DrainPicture } from "./DrainPicture";
import { NoDrains } from "./NoDrains";
import { BackUps, DrainList, PulledList } from "./DrainList";
import { DrainRose, type Visited } from "./DrainRose";
import { DrainStrip } from "./DrainStrip";
import { drainTable } from "./drainTable";
import { spare } from "./elevation";
import { nowAt, nowUnder } from "./now";
import { otherPages } from "./otherPages";
import { PlaceDrains } from "./PlaceDrain";
import type { Tab } from "./tabs";
import { TryDrain } from "./TryDrain";
import { useDrainsCommands } from "./useDrainsCommands";
import { useTrial } from "./useTrial";

const AS_GUESSED: Assumed = { foamPct: null, blowByLMin: null };
/** The lap laid out below, or that there is none. */
function TheLap({
  stage,
  drain,
  at,
  isPad,
}: {
  stage: DrainsStage;
  drain: Drain;
  at: LapTime;
  isPad: boolean;
}): ReactElement {
  const { edit, forecast, go } = useBuildView();
  const laps = useLaps();
  const lap = forecast.shown?.lap;
  if (!lap)
    return (
      <section className="flex flex-wrap items-center gap-4 border-t-2 border-ink bg-panel px-6 py-5">
        <p>No lap yet: import one to see where a drain backs up.</p>
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
      faint={isPad}
      play={at.play}
      dips={drain.back_ups.map(({ worst_at_s: worst_s }) => ({ worst_s }))}
      table={() => drainTable(stage, drain)}
      onTime={at.goTo}
      onLap={(lapId) => edit.mutate({ kind: "lap", lapId })}
    >
      <DrainStrip
        lap={lap}
        stage={stage}
        drain={drain}
        time={at.time}
        isPad={isPad}
        onTime={at.goTo}
      />
    </LapBar>
  );
}

/** Where the lap has been, thinned, and whether oil stood over the seals there. */
function useVisited(drain: Drain): Visited[] {
  const { forecast } = useBuildView();
  const samples = forecast.shown?.lap?.samples;
  return useMemo(() => {
    if (!samples) return [];
    const every = Math.max(1, Math.floor(samples.time_s.length / 260));
    return samples.time_s.flatMap((time, at) =>
      at % every === 0
        ? [
            {
              load: { sideG: samples.side_g[at] ?? 0, foreG: samples.fore_g[at] ?? 0 },
              backs: drain.back_ups.some((each) => time >= each.start_s && time <= each.end_s),
            },
          ]
        : [],
    );
  }, [samples, drain.back_ups]);
}

/** One drain over the lap, what would mend it, the breathing beside it. */
function Shown({
  stage,
  drain,
  assumed,
  isBefore,
  onDrain,
  onAssume,
}: {
  stage: DrainsStage;
  drain: Drain;
  assumed: Assumed;
  isBefore: boolean;
  onDrain: (run: string) => void;
  onAssume: (assumed: Assumed) => void;
}): ReactElement {
  const { build, forecast } = useBuildView();
  const [pad, setPad] = useState<Load | null>(null);
  const at = useLapTime(stage.duration_s, drain.spare_at_s, () => setPad(null));
  const [tab, setTab] = useState<Tab>("drains");
  const tried = useTrial(drain, assumed);
  const under = useDrainsAt(build, pad, assumed);
  const visited = useVisited(drain);
  useDrainsCommands(drain, at, setTab);
  const moment = nowAt(stage, drain, at.time);
  const now = (pad && nowUnder(under.data, drain)) ?? moment;
  const samples = forecast.shown?.lap?.samples;
  const index = samples ? nearestIndex(samples.time_s, at.time) : 0;
  const load = pad ?? {
    sideG: samples?.side_g[index] ?? 0,
    foreG: samples?.fore_g[index] ?? 0,
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col" data-spare={spare(now).toFixed(0)}>
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="The drain" className="flex min-w-0 flex-1 flex-col">
          <DrainHead
            stage={stage}
            drain={drain}
            now={now}
            time={at.time}
            load={load}
            isPad={pad !== null}
            isBefore={isBefore}
            onLap={() => setPad(null)}
          />
          <DrainPicture stage={stage} drain={drain} now={now} tried={tried} />
        </section>
        <InspectorTabs
          shown={tab}
          onShow={setTab}
          pages={[
            {
              key: "drains",
              label: "Drains",
              content: (
                <>
                  <div className="flex items-baseline justify-between gap-2 px-4 pt-2">
                    <h2 className="min-w-0 truncate font-figure text-[18px] font-semibold">
                      Drain rose
                    </h2>
                    <span className="shrink-0 text-[13px] text-ink-2">drag the load</span>
                  </div>
                  <div className="flex justify-center border-b border-ink pb-2">
                    <DrainRose
                      drain={drain}
                      visited={visited}
                      load={load}
                      isPad={pad !== null}
                      size={252}
                      onLoad={setPad}
                    />
                  </div>
                  <DrainList
                    stage={stage}
                    shown={drain.run}
                    onShow={(picked) => {
                      onDrain(picked.run);
                      at.goTo(picked.spare_at_s);
                    }}
                  />
                  <PulledList stage={stage} />
                  <PlaceDrains drains={stage.unplaced} isBefore={isBefore} />
                  <BackUps drain={drain} time={at.time} onTime={at.goTo} />
                  <TryDrain
                    drain={drain}
                    worst={nowAt(stage, drain, drain.spare_at_s)}
                    tried={tried}
                  />
                </>
              ),
            },
            ...otherPages(stage, assumed, onAssume, forecast.shown?.drawing ?? null),
          ]}
        />
      </div>
      <TheLap stage={stage} drain={drain} at={at} isPad={pad !== null} />
    </div>
  );
}

/** Every drain over the lap: the head it has and needs, where it backs up, what mends it. */
export function DrainsScreen(): ReactElement {
  const { build, forecast } = useBuildView();
  const [assumed, setAssumed] = useState<Assumed>(AS_GUESSED);
  const [run, setRun] = useState<string | null>(null);
  const query = useDrains(build, forecast.latest?.finished?.id ?? null, assumed);
  if (!query.data)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the drains"
        onRetry={() => void query.refetch()}
      />
    );
  const stage = query.data;
  const drain = stage.drains.find((each) => each.run === run) ?? stage.drains[0];
  return (
    <>
      {query.error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="These are the last drains that could be worked out">
            {wordsOf(query.error)}
          </Notice>
        </div>
      )}
      {drain ? (
        <Shown
          stage={stage}
          drain={drain}
          assumed={assumed}
          isBefore={query.isPlaceholderData}
          onDrain={setRun}
          onAssume={setAssumed}
        />
      ) : (
        <NoDrains
          stage={stage}
          assumed={assumed}
          isBefore={query.isPlaceholderData}
          onAssume={setAssumed}
        />
      )}
    </>
  );
}
