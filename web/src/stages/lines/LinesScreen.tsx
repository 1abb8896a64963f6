import { useRef, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useLines, type Line, type LinesStage } from "../../api/lines";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Mark } from "../../parts/Mark";
import { Notice, Waiting } from "../../parts/Notice";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { ChainDrawing } from "./ChainDrawing";
import { LineNumbers } from "./LineNumbers";
import { linesTable } from "./linesTable";
import { Order } from "./Order";
import { RouteDrawing } from "./RouteDrawing";
import { allSentence, lineSentence, worstOf } from "./sentence";
import { useLay } from "./useLay";

const MOST_HEIGHT = 440;

function RunList({
  lines,
  picked,
  onPick,
}: {
  lines: readonly Line[];
  picked: string;
  onPick: (id: string) => void;
}): ReactElement {
  return (
    <ul aria-label="Lines" className="text-[14px]">
      {lines.map((line) => {
        const isPicked = line.id === picked;
        return (
          <li key={line.id} className="border-b border-hair">
            <button
              type="button"
              aria-pressed={isPicked}
              onClick={() => onPick(line.id)}
              data-run={line.id}
              className={`flex w-full items-center gap-2 px-2 py-1.5 text-left ${isPicked ? "bg-ink text-paper" : ""}`}
            >
              <span
                className={`flex size-6 shrink-0 items-center justify-center rounded-full border font-figure font-semibold ${isPicked ? "border-paper" : "border-ink"}`}
              >
                {line.number}
              </span>
              <span className="min-w-0 flex-1">{line.name}</span>
              <span className="font-figure">{line.dash ?? "?"}</span>
              <Mark
                state={line.length_mm === null && line.state !== "bad" ? "nothing" : line.state}
                size={16}
                onInk={isPicked}
              />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function TheLines({ stage }: { stage: LinesStage }): ReactElement {
  const { lines } = stage;
  const { go } = useBuildView();
  const { system, units } = useSettings();
  const [chosen, setChosen] = useState<string | null>(null);
  const [page, setPage] = useState<"line" | "order">("line");
  const [frame, size] = useSize();
  const drawing = useRef<HTMLDivElement>(null);
  const picked = lines.lines.find(({ id }) => id === chosen) ?? worstOf(lines.lines);
  const lay = useLay(picked?.id ?? "");
  if (!picked)
    return (
      <p className="px-6 py-4">
        <InUnits words={allSentence(stage)} />
      </p>
    );
  const pick = (id: string): void => {
    setChosen(id);
    setPage("line");
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <section aria-label="Lines over the car" className="min-w-0 flex-1 overflow-y-auto">
        <div className="flex items-start justify-between gap-3 px-6 pt-4">
          <div className="min-w-0">
            <h1 className="font-figure text-[20px] leading-tight font-semibold">
              <InUnits words={lineSentence(picked, units, system)} />
            </h1>
            <p className="text-[14px] text-ink-2">
              <InUnits words={allSentence(stage)} /> · what is round them dash-dotted · the picked
              line&apos;s corners can be dragged
            </p>
          </div>
          <ReadOut name="lines" table={() => linesTable(stage)} drawing={drawing} />
        </div>
        <div className="flex flex-col gap-3 px-4 pt-1 lg:flex-row">
          <div className="min-w-0 flex-1" ref={frame}>
            <div ref={drawing}>
              {size.width > 0 && (
                <RouteDrawing
                  lines={lines}
                  picked={picked}
                  width={size.width}
                  mostHeight={MOST_HEIGHT}
                  onPick={pick}
                  onLaid={(points) => lay.lay({ points: points as never })}
                />
              )}
            </div>
          </div>
          <div className="lg:w-[210px] lg:shrink-0">
            <div className="lg:max-h-[380px] lg:overflow-y-auto" tabIndex={-1}>
              <RunList lines={lines.lines} picked={picked.id} onPick={pick} />
            </div>
            <p className="px-2 py-1 text-[13px] text-ink-2">
              The figure is the dash size; a dashed ring has no length yet.
            </p>
            <Button className="mx-2" onClick={() => setPage("order")}>
              The order
            </Button>
            <p className="px-2 py-1 text-[13px] text-ink-2">
              A bottle, a cooler, a filter elsewhere: fitted on{" "}
              <button type="button" className="underline" onClick={() => go("pressure")}>
                Pressure
              </button>
              , their lines are here then.
            </p>
          </div>
        </div>
        <section aria-label="As it screws together" className="border-t border-hair pt-2">
          <h2 className="px-6 font-figure text-[16px] font-semibold">
            Line {picked.number} as it screws together
            <span className="ml-2 font-sans text-[13px] font-normal text-ink-2">
              {picked.ends[0].name} at the left; the hose is not to scale
            </span>
          </h2>
          <div className="overflow-x-auto px-4 pb-3" tabIndex={0} aria-label="Fittings, end to end">
            <ChainDrawing line={picked} />
          </div>
        </section>
      </section>
      <InspectorTabs
        pages={[
          {
            key: "line",
            label: `Line ${picked.number}`,
            content: <LineNumbers key={picked.id} line={picked} lines={lines} lay={lay} />,
          },
          { key: "order", label: "Order", content: <Order stage={stage} /> },
        ]}
        shown={page}
        onShow={setPage}
      />
    </div>
  );
}

/** Every hose and hard line of the circuit: its way, its ends, and the order for all of them. */
export function LinesScreen(): ReactElement {
  const { build } = useBuildView();
  const query = useLines(build);
  if (!query.data)
    return (
      <Waiting
        error={query.error ? wordsOf(query.error) : null}
        what="the lines"
        onRetry={() => void query.refetch()}
      />
    );
  return (
    <>
      {query.error && (
        <div className="px-6 pt-2">
          <Notice kind="bad" title="These are the last figures that could be worked out">
            {wordsOf(query.error)}
          </Notice>
        </div>
      )}
      <TheLines stage={query.data} />
    </>
  );
}
