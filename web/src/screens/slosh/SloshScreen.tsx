import type { UseMutationResult, UseQueryResult } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useEffect, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { BuildOut, Edit, Slosh } from "../../api/queries";
import { Sheet } from "../../drawing/Sheet";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { LapStrip } from "../../plots/LapStrip";
import { CircuitLine } from "../../plots/CircuitLine";
import { stepDip } from "../../plots/traces";
import { Dips } from "./Dips";
import { momentOf, standingMoment, type Moment } from "./moment";
import { Numbers } from "./numbers/Numbers";

function Headline({ moment, note }: { moment: Moment; note: string }): ReactElement {
  return (
    <div className="px-6 pt-4">
      <h1 className="font-figure text-[22px] leading-7 font-semibold">{moment.title}</h1>
      <p className="font-figure text-[14px] text-ink-2">{moment.words}</p>
      <p className="mt-1 flex items-start gap-2 text-[13px] text-ink-2">
        <Mark state="caution" size={16} />
        <span>{note}</span>
      </p>
    </div>
  );
}

function Strip({
  slosh,
  time,
  onTime,
}: {
  slosh: Slosh;
  time: number;
  onTime: (time: number) => void;
}): ReactElement | null {
  const { lap } = slosh;
  if (!lap) return null;
  const to = (way: 1 | -1): void => {
    const dip = stepDip(lap.dips, time, way);
    if (dip) onTime(dip.worst_s);
  };
  const step = (way: 1 | -1, label: string, key: string): ReactElement => (
    <Button
      className="h-8 w-9 px-0"
      aria-label={label}
      title={`${label.toLowerCase()} (${key})`}
      disabled={stepDip(lap.dips, time, way) === null}
      onClick={() => to(way)}
    >
      <svg width="9" height="14" viewBox="0 0 9 14" aria-hidden="true">
        <path
          d={way === 1 ? "M1 1l6 6-6 6" : "M8 1 2 7l6 6"}
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        />
      </svg>
    </Button>
  );
  return (
    <section
      aria-label="Lap strip"
      className="flex flex-col border-t-2 border-ink bg-panel sm:h-[136px] sm:flex-row"
    >
      <div className="flex shrink-0 items-center gap-3 px-4 py-1 sm:w-[210px] sm:flex-col sm:items-stretch sm:gap-0">
        <p className="truncate font-figure text-[14px] font-semibold" title={lap.lap_name}>
          {lap.lap_name}
        </p>
        <div className="flex flex-1 items-center gap-2">
          <CircuitLine
            line={lap.line_m}
            marks={lap.dips.map((dip) => dip.worst_s / lap.duration_s)}
            here={time / lap.duration_s}
            width={96}
            height={84}
          />
          <span className="flex gap-1">
            {step(-1, "Previous dip", ",")}
            {step(1, "Next dip", ".")}
          </span>
        </div>
      </div>
      <LapStrip lap={lap} time={time} onTime={onTime} />
    </section>
  );
}

function NoLap({ onLoads }: { onLoads: () => void }): ReactElement {
  return (
    <section className="flex flex-wrap items-center gap-4 border-t-2 border-ink bg-panel px-6 py-6">
      <p>No lap yet: the oil is drawn as it stands with the car at rest.</p>
      <Button look="main" onClick={onLoads}>
        Import a lap
      </Button>
    </section>
  );
}

/** The pan with the oil as it lies at a moment of the lap, the dips, and the numbers behind it. */
export function SloshScreen({
  build,
  slosh,
  edit,
  onLoads,
}: {
  build: BuildOut;
  slosh: UseQueryResult<Slosh>;
  edit: UseMutationResult<BuildOut, Error, Edit>;
  onLoads: () => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [picked, setPicked] = useState<number | null>(null);
  const [box, { width, height }] = useSize();
  const lap = slosh.data?.lap ?? null;
  const time = Math.min(
    picked ?? lap?.dips[0]?.worst_s ?? lap?.least_cover_at_s ?? 0,
    lap?.duration_s ?? 0,
  );

  useEffect(() => {
    function onKey(event: KeyboardEvent): void {
      if (
        event.target instanceof HTMLElement &&
        /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)
      )
        return;
      if (event.key !== "," && event.key !== ".") return;
      const dip = lap ? stepDip(lap.dips, time, event.key === "." ? 1 : -1) : null;
      if (dip) setPicked(dip.worst_s);
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [lap, time]);

  const data = slosh.data;
  const moment = data
    ? lap
      ? momentOf(data, lap, time, system, units)
      : standingMoment(data, system, units)
    : null;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
        <section aria-label="The pan" className="flex min-w-0 flex-1 flex-col">
          {moment && data ? (
            <>
              <Headline moment={moment} note={data.model_note} />
              {slosh.error && (
                <div className="px-6 pt-2">
                  <Notice kind="bad" title="This is the last forecast that could be made">
                    {wordsOf(slosh.error)}
                  </Notice>
                </div>
              )}
              <div
                ref={box}
                className="min-h-[380px] flex-1 overflow-hidden lg:min-h-0 max-sm:overflow-visible"
              >
                {width > 0 && (
                  <Sheet
                    drawing={data.drawing}
                    oil={moment.oil}
                    airy={moment.airy}
                    words={moment.title}
                    callout={moment.callout}
                    width={width}
                    height={Math.max(height, 320)}
                  />
                )}
              </div>
            </>
          ) : (
            <Waiting
              error={slosh.error ? wordsOf(slosh.error) : null}
              what="the forecast"
              onRetry={() => void slosh.refetch()}
            />
          )}
        </section>
        <Tabs.Root
          defaultValue="dips"
          className="flex flex-col border-t border-ink bg-panel lg:w-[352px] lg:shrink-0 lg:border-t-0 lg:border-l"
        >
          <Tabs.List aria-label="Inspector" className="grid grid-cols-2 border-b border-ink">
            {[
              ["dips", "Dips"],
              ["numbers", "Numbers"],
            ].map(([value, label]) => (
              <Tabs.Trigger
                key={value}
                value={value ?? ""}
                className="h-10 font-figure text-[16px] font-semibold focus-visible:outline-offset-[-3px] data-[state=active]:bg-ink data-[state=active]:text-paper"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="dips" className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
            {data && (
              <Dips
                slosh={data}
                time={time}
                onTime={setPicked}
                now={lap ? (moment?.load ?? null) : null}
              />
            )}
          </Tabs.Content>
          <Tabs.Content value="numbers" className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
            <Numbers build={build} edit={edit} drawing={data?.drawing ?? null} />
          </Tabs.Content>
        </Tabs.Root>
      </div>
      {data &&
        (lap ? <Strip slosh={data} time={time} onTime={setPicked} /> : <NoLap onLoads={onLoads} />)}
    </div>
  );
}
