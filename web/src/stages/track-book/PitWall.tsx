import type { ReactElement, ReactNode } from "react";
import { wordsOf } from "../../api/client";
import { useLive, useLiveAct, type Live, type LiveNow } from "../../api/live";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { pressureAs, temperatureWords } from "../../parts/units";
import { LiveLine } from "./LiveLine";
import { cornerSaid, dipsSaid, playWords, pressureSaid, type Said } from "./liveWords";

const INK = {
  good: "text-ink",
  caution: "text-ink",
  bad: "text-bad",
  nothing: "text-ink-2",
} as const;

/** One thing to be read at arm's length. */
function Large({
  title,
  figure,
  unit,
  said,
}: {
  title: string;
  figure: string;
  unit: string;
  said: Said;
}): ReactElement {
  return (
    <div className="min-w-0">
      <p className="text-[17px] text-ink-2">{title}</p>
      <p
        className={`font-figure text-[88px] leading-none font-semibold tabular-nums sm:text-[128px] ${INK[said.state]}`}
      >
        {figure}
        <span className="pl-2 text-[30px] font-normal">{unit}</span>
      </p>
      <p className="flex items-center gap-2 text-[22px] font-semibold">
        <Mark state={said.state} /> <InUnits words={said.words} />
      </p>
    </div>
  );
}

/** How a logger is joined: its first line, then its headings, then row after row. */
function HowToJoin({ live }: { live: Live }): ReactElement {
  return (
    <div className="max-w-3xl text-[16px]">
      <p className="flex items-center gap-2 font-semibold">
        <Mark state="nothing" /> No logger is heard yet.
      </p>
      {live.port === null ? (
        <p>Nobody listens on this machine yet; a worker does within a few seconds.</p>
      ) : (
        <>
          <p className="pt-1">
            A logger, or the program that reads its radio, sends lines of text to port {live.port}{" "}
            of the machine {live.host}, from that machine itself: first{" "}
            <code className="font-figure">key {live.key}</code>, then its headings with units, then
            a line a row, as in its CSV file. It needs time, speed, engine speed and oil pressure; a
            lap number tells where the line is.
          </p>
          <p className="pt-2">A log as a stand-in, at real speed:</p>
          <p className="mt-1 overflow-x-auto border border-ink bg-panel p-2 font-figure whitespace-nowrap [font-variant-ligatures:none]">
            {playWords(live)}
          </p>
        </>
      )}
    </div>
  );
}

function Running({ live, now }: { live: Live; now: LiveNow }): ReactElement {
  const { units, system } = useSettings();
  const [frame, size] = useSize();
  const bar = (value: number): { figure: string; unit: string } => pressureAs(units, system, value);
  const measured = bar(now.bar);
  const { corner } = now;
  return (
    <>
      {live.state === "silent" && (
        <Notice kind="caution" title="Its logger is not heard any more">
          What is shown is what was heard last.
        </Notice>
      )}
      <div className="grid gap-x-8 gap-y-4 md:grid-cols-2">
        <Large
          title={`Gallery${now.expected_bar === null ? "" : `, expected here ${bar(now.expected_bar).figure}`}`}
          figure={measured.figure}
          unit={measured.unit}
          said={pressureSaid(now)}
        />
        <Large
          title={
            corner
              ? `Next corner, ${corner.hand}${corner.until_s === 0 ? ", in it" : ""}`
              : "Next corner"
          }
          figure={corner ? corner.name.replace(/^corner /, "") : "?"}
          unit=""
          said={cornerSaid(now)}
        />
      </div>
      <div ref={frame} className="pt-3">
        <LiveLine
          points={live.points}
          dipShare={now.dip_bar / Math.max(now.usual_bar, 0.01)}
          width={Math.max(size.width, 280)}
          height={size.width > 640 ? 290 : 220}
        />
      </div>
      <p className="flex flex-wrap gap-x-6 text-[20px]">
        <span>Lap {now.lap}</span>
        <span>Dips: {dipsSaid(now)}</span>
        <span>{now.rpm.toFixed(0)} rpm</span>
        {now.oil_c !== null && <span>Oil {temperatureWords(units, system, now.oil_c)}</span>}
      </p>
      <p className="text-[14px] text-ink-2">
        Dark: measured. Wide: as the sensor would show the forecast ({live.forecast.model}, over{" "}
        {live.forecast.lap}). Dotted: under it is a dip. A forecast is not a warning: the
        driver&apos;s lamp and the gauge decide.
      </p>
    </>
  );
}

/** The pit wall: a car that drives, its pressure against what is expected, the next corner. */
export function PitWall({ onLeave }: { onLeave: () => void }): ReactElement {
  const { build } = useBuildView();
  const query = useLive(build);
  const act = useLiveAct(build);
  const live = query.data?.live ?? null;
  const head = (more: ReactNode): ReactElement => (
    <div className="flex flex-wrap items-center justify-between gap-3 pb-3">
      <h1 className="font-figure text-[26px] font-semibold">Pit wall, {build.name}</h1>
      <span className="flex gap-2">
        {more}
        <Button className="min-h-10" onClick={onLeave}>
          Back to the book
        </Button>
      </span>
    </div>
  );
  if (!query.data)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the car that is followed"
        onRetry={() => void query.refetch()}
      />
    );
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4 lg:px-6">
      {head(
        live && (
          <Button className="min-h-10" onClick={() => act.mutate("leave")}>
            Follow it no more
          </Button>
        ),
      )}
      {act.error && (
        <Notice kind="bad" title="It cannot be followed">
          {wordsOf(act.error)}
        </Notice>
      )}
      {!live ? (
        <div className="max-w-2xl text-[16px]">
          <p>
            The car as it drives: its gallery&apos;s pressure against what the forecast expects at
            that place of the lap, and what the next corner may bring.
          </p>
          <Button
            look="main"
            className="mt-3 min-h-11"
            disabled={act.isPending}
            onClick={() => act.mutate("follow")}
          >
            Follow this car
          </Button>
        </div>
      ) : (
        <>
          {live.fault && (
            <Notice kind="bad" title="Its logger was refused">
              {live.fault}
            </Notice>
          )}
          {live.now ? <Running live={live} now={live.now} /> : <HowToJoin live={live} />}
        </>
      )}
    </div>
  );
}
