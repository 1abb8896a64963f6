import { DropdownMenu } from "radix-ui";
import type { ReactElement } from "react";
import { wordsOf } from "../api/client";
import {
  useAskForRun,
  useAskForStarts,
  useCancelRunsOfBuild,
  type Cells,
  type Latest,
  type Run,
} from "../api/runs";
import { useBuildView } from "./BuildContext";
import { Mark } from "../parts/Mark";
import { Progress } from "../parts/Progress";
import { CELLS } from "./moving";
import { howLong } from "./howLong";

const FINER: Record<Cells, Cells[]> = { quick: ["bench", "fine"], bench: ["fine"], fine: [] };
/** How many starts a spread is taken of. */
const STARTS = 5;
const nameOf = (cells: Cells): string => `${CELLS[cells]} cells`;

/** Dry time over starts, in words. */
export function spreadWords(starts: NonNullable<Latest["starts"]>): string {
  const [low, high] = [Math.min(...starts.dry_s), Math.max(...starts.dry_s)];
  const without = starts.under_s.filter((under) => under === 0).length;
  const held = starts.holds ? "holds in all" : `holds in ${without} of ${starts.under_s.length}`;
  return `${held}; dry ${starts.mean_s.toFixed(2)} ± ${starts.deviation_s.toFixed(2)} s, ${low.toFixed(1)} to ${high.toFixed(1)}`;
}

function UnderWay({
  run,
  queued,
  onCancel,
}: {
  run: Run;
  queued: number;
  onCancel: () => void;
}): ReactElement {
  const more = queued > 0 ? `, ${queued} more behind it` : "";
  const soFar = run.partial
    ? `, dry for ${run.partial.dry_s.toFixed(1)} s in ${run.reached_s.toFixed(0)} s so far`
    : "";
  const left = run.left_s === null ? "" : `, ${howLong(run.left_s)} to go`;
  return (
    <Progress
      doing={
        run.status === "waiting"
          ? `Moving oil, ${nameOf(run.cells)}, waits for its turn${more}:`
          : `Moving oil, ${nameOf(run.cells)}${soFar}${left}${more}:`
      }
      share={run.lasts_s > 0 ? run.reached_s / run.lasts_s : 0}
      onCancel={onCancel}
    />
  );
}

/** What can be run beside what is known, with the time it takes here. */
function RunMenu({
  items,
}: {
  items: readonly { words: string; run: () => void }[];
}): ReactElement | null {
  if (items.length === 0) return null;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="h-7 border border-ink bg-panel px-2 font-figure whitespace-nowrap">
        Run finer…
      </DropdownMenu.Trigger>
      <DropdownMenu.Content
        align="end"
        className="z-30 border border-ink bg-panel p-1 text-[14px] text-ink"
      >
        {items.map(({ words, run }) => (
          <DropdownMenu.Item
            key={words}
            onSelect={run}
            className="cursor-pointer px-3 py-1 data-[highlighted]:bg-ink data-[highlighted]:text-paper"
          >
            {words}
          </DropdownMenu.Item>
        ))}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

/** Whether figures are of moving oil, what is being run, and what could be. */
export function MovingOil({
  latest,
  isBrief = false,
}: {
  latest: Latest;
  /** Figures are of one oil alone: there is nothing to choose. */
  isBrief?: boolean;
}): ReactElement {
  const { build, forecast } = useBuildView();
  const { figures, moves, setMoves, settled } = forecast;
  const settledDry = settled.data?.lap?.dry_s ?? 0;
  const ask = useAskForRun();
  const askStarts = useAskForStarts();
  const cancel = useCancelRunsOfBuild();
  const { under_way: run, queued, finished, starts, failed } = latest;
  const error = ask.error ?? askStarts.error ?? cancel.error;
  const takesIn = (cells: Cells): number => {
    const pace = latest.speeds.find((speed) => speed.cells === cells)?.wall_s_per_s ?? 1;
    return pace * (finished?.lasts_s ?? failed?.lasts_s ?? 80);
  };
  return (
    <section aria-label="Moving oil" className={`text-[14px] ${isBrief ? "" : "px-6"}`}>
      {finished && figures && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
          {!isBrief && (
            <span role="group" aria-label="Figures of" className="flex border border-ink">
              {[true, false].map((each) => (
                <button
                  key={String(each)}
                  type="button"
                  aria-pressed={moves === each}
                  onClick={() => setMoves(each)}
                  className={`h-7 px-3 focus-visible:outline-offset-[-3px] ${moves === each ? "bg-ink text-paper" : ""}`}
                >
                  {each ? "Moving oil" : "Settled oil"}
                </button>
              ))}
            </span>
          )}
          <span className={isBrief ? "font-figure text-[13px] text-ink-2" : "font-figure"}>
            dry {figures.dry_s.toFixed(1)} s moving, {nameOf(finished.cells)};{" "}
            {settledDry.toFixed(1)} s settled
            {figures.crank_in_oil_s > 0 && `; crank in oil ${figures.crank_in_oil_s.toFixed(0)} s`}
            {starts && `; ${starts.dry_s.length} starts: ${spreadWords(starts)}`}
          </span>
          {!run && (
            <RunMenu
              items={[
                ...FINER[finished.cells].map((cells) => ({
                  words: `In ${nameOf(cells)}, ${howLong(takesIn(cells))}`,
                  run: () => ask.mutate({ buildId: build.id, cells }),
                })),
                ...((starts?.dry_s.length ?? 1) < STARTS
                  ? [
                      {
                        words: `From ${STARTS} starts, how much is chance: ${howLong((STARTS - 1) * takesIn(finished.cells))}`,
                        run: () =>
                          askStarts.mutate({
                            buildId: build.id,
                            cells: finished.cells,
                            count: STARTS,
                          }),
                      },
                    ]
                  : []),
              ]}
            />
          )}
        </div>
      )}
      {run && <UnderWay run={run} queued={queued} onCancel={() => cancel.mutate(build.id)} />}
      {run && !finished && !isBrief && (
        <p className="text-[13px] text-ink-2">
          Until then the figures are of settled oil. Moving oil lags, overshoots and feels plates
          and gates: its dry time and dips take their place.
        </p>
      )}
      {!run && failed && (
        <p className="flex items-start gap-2 py-1">
          <Mark state="bad" size={16} />
          <span>The moving oil could not be run: {failed.reason}</span>
        </p>
      )}
      {!run && !finished && (
        <p className="py-1">
          <button
            type="button"
            className="underline disabled:no-underline"
            onClick={() => ask.mutate({ buildId: build.id, cells: "quick" })}
            disabled={ask.isPending}
          >
            Run the moving oil, {howLong(takesIn("quick"))}
          </button>
        </p>
      )}
      {error && (
        <p role="alert" className="py-1 text-bad">
          {wordsOf(error)}
        </p>
      )}
    </section>
  );
}
