import type { ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { BuildOut } from "../../api/queries";
import { useAskForRun, useCancelRun, type Cells, type Latest, type Run } from "../../api/runs";
import { Mark } from "../../parts/Mark";
import { Progress } from "../../parts/Progress";
import { howLong } from "./howLong";

const FINER: Record<Cells, Cells[]> = { quick: ["bench", "fine"], bench: ["fine"], fine: [] };
const SIZES: Record<Cells, string> = { quick: "coarse", bench: "10 mm", fine: "8 mm" };
const NAMES: Record<Cells, string> = {
  quick: "coarse cells",
  bench: "10 mm cells",
  fine: "8 mm cells",
};

function UnderWay({ run, onCancel }: { run: Run; onCancel: () => void }): ReactElement {
  const soFar = run.partial
    ? `, dry for ${run.partial.dry_s.toFixed(1)} s in ${run.reached_s.toFixed(0)} s so far`
    : "";
  const left = run.left_s === null ? "" : `, ${howLong(run.left_s)} to go`;
  return (
    <Progress
      doing={
        run.status === "waiting"
          ? `Moving oil, ${NAMES[run.cells]}, waits for its turn:`
          : `Moving oil, ${NAMES[run.cells]}${soFar}${left}:`
      }
      share={run.lasts_s > 0 ? run.reached_s / run.lasts_s : 0}
      onCancel={onCancel}
    />
  );
}

/** Whether figures are of moving oil, what is being run, and what could be. */
export function MovingOil({
  build,
  latest,
  settledDry,
  moves,
  onMoves,
}: {
  build: BuildOut;
  latest: Latest;
  settledDry: number;
  moves: boolean;
  onMoves: (moves: boolean) => void;
}): ReactElement {
  const ask = useAskForRun();
  const cancel = useCancelRun();
  const { under_way: run, finished, failed } = latest;
  const error = ask.error ?? cancel.error;
  const offered: Cells[] = finished ? FINER[finished.cells] : ["quick"];
  const finer = offered.map((cells) => {
    const pace = latest.speeds.find((speed) => speed.cells === cells)?.wall_s_per_s ?? 1;
    const takes = pace * (finished?.lasts_s ?? failed?.lasts_s ?? 80);
    return (
      <button
        key={cells}
        type="button"
        className="whitespace-nowrap underline disabled:no-underline"
        onClick={() => ask.mutate({ buildId: build.id, cells })}
        disabled={ask.isPending}
      >
        {SIZES[cells]}, {howLong(takes)}
      </button>
    );
  });
  return (
    <section aria-label="Moving oil" className="px-6 text-[14px]">
      {finished && latest.figures && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
          <span role="group" aria-label="Figures of" className="flex border border-ink">
            {[true, false].map((each) => (
              <button
                key={String(each)}
                type="button"
                aria-pressed={moves === each}
                onClick={() => onMoves(each)}
                className={`h-7 px-3 focus-visible:outline-offset-[-3px] ${moves === each ? "bg-ink text-paper" : ""}`}
              >
                {each ? "Moving oil" : "Settled oil"}
              </button>
            ))}
          </span>
          <span className="font-figure">
            dry {latest.figures.dry_s.toFixed(1)} s moving, {NAMES[finished.cells]};{" "}
            {settledDry.toFixed(1)} s settled
            {latest.figures.crank_in_oil_s > 0 &&
              `; crank in oil ${latest.figures.crank_in_oil_s.toFixed(0)} s`}
          </span>
          {!run && finer.length > 0 && <span>Run finer:</span>}
          {!run && finer}
        </div>
      )}
      {run && <UnderWay run={run} onCancel={() => cancel.mutate(run.id)} />}
      {!run && failed && (
        <p className="flex items-start gap-2 py-1">
          <Mark state="bad" size={16} />
          <span>The moving oil could not be run: {failed.reason}</span>
        </p>
      )}
      {!run && !finished && <p className="py-1">Run the moving oil: {finer}</p>}
      {error && (
        <p role="alert" className="py-1 text-bad">
          {wordsOf(error)}
        </p>
      )}
    </section>
  );
}
