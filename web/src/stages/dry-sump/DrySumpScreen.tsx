import { useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useDrySump, type Dry, type DryOverLap, type DryStage } from "../../api/dry";
import { useLaps } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { FitForm } from "../../document/circuit/FitForms";
import { useLapTime, type LapTime } from "../../document/useLapTime";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { InUnits } from "../../parts/InUnits";
import { momentAt, type Moment } from "../../plots/dryMoment";
import { LapBar } from "../../plots/LapBar";
import { placeWords } from "../../plots/place";
import { nearestIndex } from "../../plots/traces";
import { dryTable } from "./dryTable";
import { stagesSentence, worthSentence } from "./flow";
import { DriveSection } from "./DriveSection";
import { FindLevel } from "./FindLevel";
import { FlowDrawing, type Wet } from "./FlowDrawing";
import { Sizes } from "./Sizes";
import { StageMap } from "./StageMap";
import { StagesNumbers } from "./StagesNumbers";
import { WhatIf } from "./WhatIf";

/** Still wet: what going dry is, and its form. */
function StillWet(): ReactElement {
  const [done, setDone] = useState<string | null>(null);
  return (
    <div className="grid gap-6 px-6 py-6 lg:grid-cols-2">
      <section>
        <h1 className="font-figure text-[22px] font-semibold">The pump draws from the pan</h1>
        <p className="max-w-[56ch] py-2">
          A dry sump pulls the oil out of a shallow pan into a tank, and the pump draws from there.
          It is for dips that are long, or a sump that must be shallow: for short dips an
          accumulator or gates are less work, and Options has both on your own laps.
        </p>
        <ul className="max-w-[56ch] list-disc pl-5 text-[14px]">
          <li>
            Every pickup has a stage of its own: one that sucks air does not starve the others.
          </li>
          <li>What counts is which stages have oil in each corner, not the ratio in all.</li>
          <li>The tank is upright in the car; its outlet must stay under oil in every corner.</li>
        </ul>
      </section>
      <section aria-label="Go dry">
        <h2 className="font-figure text-[18px] font-semibold">Go dry</h2>
        {done && (
          <p role="status" className="text-[14px]">
            Done: <InUnits words={done} />.
          </p>
        )}
        <FitForm kind="go_dry" onDone={setDone} />
      </section>
    </div>
  );
}

/** Where the floor is wet and how the tank's surface leans, from the lap in settled oil. */
function useLying(time: number): { wet: Wet | null; lean: number } {
  const { forecast } = useBuildView();
  const samples = forecast.settled.data?.lap?.samples;
  if (!samples) return { wet: null, lean: 0 };
  const at = nearestIndex(samples.time_s, time);
  const up = samples.normals[at];
  const heightMm = samples.level_mm[at];
  const side = samples.side_g[at] ?? 0;
  const fore = samples.fore_g[at] ?? 0;
  const steep = Math.hypot(side, fore) * (Math.abs(side) >= Math.abs(fore) ? Math.sign(side) : 1);
  if (!up || heightMm === undefined) return { wet: null, lean: steep };
  return { wet: { up, heightMm }, lean: steep };
}

function Checks({ stage }: { stage: DryStage }): ReactElement | null {
  const wrong = stage.checks.filter(({ state }) => state !== "good");
  if (wrong.length === 0) return null;
  return (
    <ul aria-label="What is wrong" className="border-b border-ink px-4 py-2">
      {wrong.map((check) => (
        <li key={check.words} className="flex gap-2 py-1 text-[14px]">
          <Mark state={check.state} size={16} />
          <span className="first-letter:uppercase">
            <InUnits words={check.words} />. <span className="text-ink-2">{check.source}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What else must be done. */
function Also({ dry }: { dry: Dry }): ReactElement {
  return (
    <section className="border-t border-ink px-4 py-3 text-[14px]">
      <h2 className="font-figure text-[18px] font-semibold">What else must be done</h2>
      <ul className="list-disc pl-5">
        {dry.also.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
    </section>
  );
}

function TheLap({
  dry,
  over,
  at,
}: {
  dry: Dry;
  over: DryOverLap;
  at: LapTime;
}): ReactElement | null {
  const { edit, forecast } = useBuildView();
  const laps = useLaps();
  const lap = forecast.shown?.lap;
  if (!lap) return null;
  return (
    <LapBar
      lap={lap}
      over={null}
      crank={[]}
      laps={laps.data ?? []}
      time={at.time}
      faint={false}
      play={at.play}
      table={() => dryTable(dry, over)}
      onTime={at.goTo}
      onLap={(lapId) => edit.mutate({ kind: "lap", lapId })}
    />
  );
}

function Head({ dry, moment, stage }: { dry: Dry; moment: Moment; stage: DryStage }): ReactElement {
  const { lap } = useBuildView().forecast.shown ?? {};
  return (
    <div className="flex items-start justify-between gap-3 px-6 pt-4">
      <div className="min-w-0">
        <h1 className="font-figure text-[20px] leading-tight font-semibold">
          <InUnits words={`${placeWords(lap, moment.time)}: ${stagesSentence(dry, moment)}`} />
        </h1>
        <p className="text-[14px] text-ink-2">{stage.words}</p>
      </div>
    </div>
  );
}

/** A dry sump over its lap: flows at a moment, the stages corner by corner, sizes. */
function OverLap({
  stage,
  dry,
  over,
}: {
  stage: DryStage;
  dry: Dry;
  over: DryOverLap;
}): ReactElement {
  const { build } = useBuildView();
  const { traces } = over;
  const start = traces.time_s[0] ?? 0;
  const worst = over.corners.reduce(
    (most, corner) => (corner.left_l > most.left ? { left: corner.left_l, at: corner.at_s } : most),
    { left: -1, at: start },
  );
  const at = useLapTime((traces.time_s.at(-1) ?? 0) - start, worst.at - start);
  const moment = momentAt(over, at.time);
  const { wet, lean } = useLying(at.time);
  const drawing = useRef<HTMLDivElement>(null);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="The dry sump" className="min-w-0 flex-1 overflow-y-auto">
          <Head dry={dry} moment={moment} stage={stage} />
          <div className="overflow-x-auto px-4" ref={drawing} tabIndex={0} aria-label="Flow">
            <div className="min-w-[640px]">
              <FlowDrawing dry={dry} moment={moment} wet={wet} lean={lean} />
            </div>
          </div>
          <div className="flex items-center justify-between gap-x-3 border-t border-hair px-6 pt-2">
            <h2 className="font-figure text-[18px] font-semibold">
              What each stage draws, corner by corner
            </h2>
            <span className="flex items-center gap-2 text-[13px] text-ink-2">
              share of oil over the corner
              <ReadOut name="dry-sump" table={() => dryTable(dry, over)} drawing={drawing} />
            </span>
          </div>
          <StageMap dry={dry} over={over} time={at.time} onTime={at.goTo} />
          <p className="px-6 pb-4 text-[15px]">{worthSentence(dry, over)}</p>
          <WhatIf dry={dry} />
          <DriveSection dry={dry} />
        </section>
        <aside className="shrink-0 overflow-y-auto border-ink bg-panel lg:w-[330px] lg:border-l">
          <Checks stage={stage} />
          <Sizes sizes={dry.sizes} />
          <StagesNumbers dry={dry} />
          <FindLevel dry={dry} oilL={build.document.oil.volume_l} />
          <Also dry={dry} />
        </aside>
      </div>
      <TheLap dry={dry} over={over} at={at} />
    </div>
  );
}

/** A dry sump: sizes, tank and stages; before it is one, how to make it. */
export function DrySumpScreen(): ReactElement {
  const { build, forecast, go } = useBuildView();
  const query = useDrySump(build, forecast.latest?.finished?.id ?? null);
  // a form that was just filled in is not shown again while what it made is worked out
  if (!query.data || (!query.data.dry && query.isPlaceholderData))
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the dry sump"
        onRetry={() => void query.refetch()}
      />
    );
  const { dry, moving } = query.data;
  const over = moving ?? dry?.over_lap;
  return (
    <>
      {query.error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="These are the last figures that could be worked out">
            {wordsOf(query.error)}
          </Notice>
        </div>
      )}
      {!dry && <StillWet />}
      {dry && over && <OverLap stage={query.data} dry={dry} over={over} />}
      {dry && !over && (
        <div className="grid gap-4 px-6 py-4 lg:grid-cols-2">
          <section>
            <h1 className="font-figure text-[22px] font-semibold">Sizes alone: there is no lap</h1>
            <p className="py-2">{query.data.words}</p>
            <Button look="main" onClick={() => go("loads")}>
              Import a lap
            </Button>
          </section>
          <div className="bg-panel">
            <Checks stage={query.data} />
            <Sizes sizes={dry.sizes} />
            <StagesNumbers dry={dry} />
            <FindLevel dry={dry} oilL={build.document.oil.volume_l} />
            <Also dry={dry} />
          </div>
          <div className="lg:col-span-2">
            <DriveSection dry={dry} />
          </div>
        </div>
      )}
    </>
  );
}
