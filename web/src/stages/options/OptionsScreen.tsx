import { useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  isUnderWay,
  pageOf,
  useBeginStudy,
  useCancelStudy,
  useOptions,
  type Options,
  type Study,
} from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { useCommands } from "../../parts/commands";
import { Notice, Waiting } from "../../parts/Notice";
import { Progress } from "../../parts/Progress";
import { FrontPlot } from "./FrontPlot";
import { RemedyPanel } from "./RemedyPanel";
import { RemedyTable } from "./RemedyTable";
import { Schools } from "./Schools";
import { WhatIsTried } from "./WhatIsTried";

/** From this width on the panel stands beside the table [px]. */
const BESIDE = 1024;

/** Nothing tried yet: what will be done, and the button to do it. */
function Begin({
  hasLap,
  isBusy,
  onBegin,
}: {
  hasLap: boolean;
  isBusy: boolean;
  onBegin: () => void;
}): ReactElement {
  const { go } = useBuildView();
  if (!hasLap)
    return (
      <div className="max-w-xl p-6">
        <h1 className="font-figure text-[22px] font-semibold">No lap to try remedies on</h1>
        <p className="mt-1">A remedy is judged on the laps that the car really drives.</p>
        <Button look="main" className="mt-3" onClick={() => go("loads")}>
          Import a lap
        </Button>
      </div>
    );
  return (
    <div className="max-w-xl p-6">
      <h1 className="font-figure text-[22px] font-semibold">The smallest remedy that holds</h1>
      <p className="mt-1">
        Some thirty remedies, from a litre more to a new pan, are each run on this build and its
        laps in moving oil, alone and then together. Figures come as they are had; the whole takes a
        few minutes and goes on while you do something else.
      </p>
      <Button look="main" className="mt-3" disabled={isBusy} onClick={onBegin}>
        Try the remedies
      </Button>
    </div>
  );
}

function progressWords(study: Study): string {
  const { progress, options } = study;
  if (!progress.ready) return "Working the remedies out";
  const now = progress.now[0];
  const base =
    progress.base_reached < 1
      ? `the build's own run ${Math.round(100 * progress.base_reached)} %; `
      : "";
  if (options?.choice.key && options.choice.is_provisional) return `Proving it: ${now ?? "next"};`;
  return `${options?.tried ?? 0} of ${options?.to_try ?? 0} remedies decided, ${base}now ${now ?? "waiting for a worker"}:`;
}

function Head({
  study,
  onAgain,
  onCancel,
  onChoose,
  fault,
}: {
  study: Study;
  onAgain: () => void;
  onCancel: () => void;
  onChoose: () => void;
  fault: string | null;
}): ReactElement {
  const { build } = useBuildView();
  const { options, progress, laps } = study;
  const count = options?.rows.filter((row) => row.applies).length ?? 0;
  const over = laps.length === 1 ? (laps[0] ?? "a lap") : `${laps.length} laps`;
  return (
    <div className="pb-2">
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-1">
        <div className="min-w-0">
          <h1 className="font-figure text-[22px] leading-tight font-semibold">
            {options ? `${count} remedies, tried over ${over}` : `Remedies over ${over}`}
          </h1>
          <p className="text-[13px] text-ink-2">
            each row is one change to the build; it holds when no start has a pressure dip
          </p>
        </div>
        <div className="flex gap-2">
          {options && (
            <a
              href={pageOf(build)}
              download
              className="inline-flex min-h-8 items-center rounded-[2px] border border-ink bg-panel px-3 py-1 text-[14px] font-medium"
            >
              PDF
            </a>
          )}
          <Button disabled={!options} onClick={onChoose}>
            What is tried
          </Button>
          {!isUnderWay(study) && !study.is_current && (
            <Button look="main" onClick={onAgain}>
              Try on it as it stands
            </Button>
          )}
          {!isUnderWay(study) && study.is_current && study.progress.status !== "finished" && (
            <Button onClick={onAgain}>Go on</Button>
          )}
        </div>
      </div>
      {isUnderWay(study) && (
        <Progress
          doing={progressWords(study)}
          share={progress.trials_known > 0 ? progress.trials_done / progress.trials_known : 0}
          onCancel={onCancel}
        />
      )}
      {fault && (
        <p role="alert" className="text-[14px] text-bad">
          {fault}
        </p>
      )}
      {progress.status === "failed" && (
        <Notice kind="bad" title="The remedies could not be tried">
          <p>{progress.reason}</p>
        </Notice>
      )}
      {progress.status === "cancelled" && (
        <p className="text-[14px] text-ink-2">{progress.reason} What was tried stands below.</p>
      )}
      {!study.is_current && !isUnderWay(study) && (
        <Notice kind="caution" title="Of the build as it was">
          <p>These were tried on state {study.state}; the build or its laps have changed since.</p>
        </Notice>
      )}
    </div>
  );
}

/** The remedy looked at: the one picked, else the one that holds, else the first. */
function shownOf(options: Options, picked: string | null): string | null {
  const keys = options.rows.filter((row) => row.applies).map((row) => row.key);
  if (picked !== null && keys.includes(picked)) return picked;
  return options.choice.key ?? keys[0] ?? null;
}

export function OptionsScreen(): ReactElement {
  const { build } = useBuildView();
  const asked = useOptions(build);
  const begin = useBeginStudy(build);
  const cancel = useCancelStudy(build);
  const [picked, setPicked] = useState<string | null>(null);
  const [choosing, setChoosing] = useState(false);
  const panel = useRef<HTMLElement>(null);
  const pick = (key: string): void => {
    setPicked(key);
    if (window.innerWidth < BESIDE) panel.current?.scrollIntoView({ block: "start" });
  };
  const known = asked.data?.study;
  useCommands("options", [
    {
      id: "try",
      group: "Options",
      words: "Try the remedies on the build as it stands",
      run: () => begin.mutate({ off: known?.off ?? [], own: known?.own ?? [] }),
    },
    ...(known
      ? [
          {
            id: "what-is-tried",
            group: "Options",
            words: "What is tried: switch remedies off, add your own",
            run: () => setChoosing(true),
          },
        ]
      : []),
  ]);
  if (!asked.data)
    return (
      <Waiting
        error={asked.error ? wordsOf(asked.error) : null}
        what="the remedies"
        onRetry={() => void asked.refetch()}
      />
    );
  const { study, has_lap: hasLap } = asked.data;
  const start = (): void => begin.mutate({ off: study?.off ?? [], own: study?.own ?? [] });
  const fault = begin.error ?? cancel.error;
  if (!study)
    return (
      <>
        <Begin hasLap={hasLap} isBusy={begin.isPending} onBegin={start} />
        {fault && (
          <p role="alert" className="px-6 text-bad">
            {wordsOf(fault)}
          </p>
        )}
      </>
    );
  const { options } = study;
  const shown = options && shownOf(options, picked);
  const row = options?.rows.find((each) => each.key === shown);
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <section
        aria-label="Remedies"
        className="relative min-w-0 flex-1 overflow-y-auto px-4 py-4 lg:px-6"
      >
        <Head
          study={study}
          onAgain={start}
          onCancel={() => cancel.mutate()}
          onChoose={() => setChoosing(true)}
          fault={fault ? wordsOf(fault) : null}
        />
        {options ? (
          <RemedyTable options={options} name="As it is" picked={shown} onPick={pick}>
            <Schools schools={options.schools} />
          </RemedyTable>
        ) : (
          isUnderWay(study) && (
            <p role="status" className="py-4 text-ink-2">
              Acts, parts and hours of each are being worked out…
            </p>
          )
        )}
      </section>
      {choosing && (
        <WhatIsTried
          study={study}
          onTry={(wanted) => begin.mutateAsync(wanted)}
          onClose={() => setChoosing(false)}
        />
      )}
      {options && (
        <aside
          ref={panel}
          aria-label="What a remedy buys"
          className="w-full shrink-0 border-t-2 border-ink bg-panel px-4 py-3 lg:w-[360px] lg:overflow-y-auto lg:border-t-0 lg:border-l"
        >
          <FrontPlot options={options} picked={shown ?? null} onPick={pick} />
          <hr className="mt-2 border-good" />
          {options.choice.key === null && (
            <p className="pt-2 text-[15px]">
              <InUnits words={options.choice.words} />
            </p>
          )}
          {row && <RemedyPanel key={row.key} study={study} options={options} row={row} />}
        </aside>
      )}
    </div>
  );
}
