import { momentWords } from "../../parts/days";
import type { ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { isUnderWay, useCancelRun, useRuns, type Run } from "../../api/runs";
import { Button } from "../../parts/Button";
import { Mark, type MarkState } from "../../parts/Mark";
import { Waiting } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { aboutFlow, pressureAs } from "../../parts/units";
import { CELLS } from "../../document/moving";

const marks: Record<Run["status"], MarkState> = {
  waiting: "nothing",
  running: "started",
  finished: "good",
  cancelled: "nothing",
  failed: "bad",
};

/** Columns left out on a phone: what they say stands under the build. */
const WIDE_ONLY = new Set(["Lap", "Cells", "Crank throws", "Asked"]);

const cellsOf = (run: Run): string =>
  `${CELLS[run.cells]}${run.seed > 0 ? `, start ${run.seed + 1}` : ""}`;

function standing(run: Run, pressure: (bar: number) => string): string {
  const share = `${Math.round((100 * run.reached_s) / Math.max(run.lasts_s, 0.01))} %`;
  switch (run.status) {
    case "waiting":
      return run.attempt > 0 ? "lost its worker; waits again" : "waits";
    case "running":
      return run.left_s === null ? share : `${share}, ${run.left_s.toFixed(0)} s to go`;
    case "finished":
      if (!run.summary) return "finished";
      return `dry ${run.summary.dry_s.toFixed(1)} s, ${run.summary.lowest_bar == null ? "by an older model" : `lowest ${pressure(run.summary.lowest_bar)}`}`;
    case "cancelled":
    case "failed":
      return run.reason;
  }
}

/** Every run of the workshop: where it stands and what it cost. */
export function RunList({ onOpen }: { onOpen: (buildId: number) => void }): ReactElement {
  const runs = useRuns();
  const cancel = useCancelRun();
  const { system, units } = useSettings();
  const pressure = (bar: number): string => {
    const { figure, unit } = pressureAs(units, system, bar);
    return `${figure} ${unit}`;
  };
  const thrown = ({ summary }: Run): string =>
    summary?.windage ? aboutFlow(units, system, summary.windage.thrown_l_min.likely) : "";
  if (!runs.data)
    return (
      <Waiting
        error={runs.error ? wordsOf(runs.error) : null}
        what="the runs"
        onRetry={() => void runs.refetch()}
      />
    );
  return (
    <section className="px-6 py-4">
      <h1 className="font-figure text-[22px] font-semibold">Runs in moving oil</h1>
      <p className="text-[14px] text-ink-2">
        A run starts by itself after each edit; finer ones are asked for on Slosh. A result that is
        known is not computed again.
      </p>
      {cancel.error && (
        <p role="alert" className="text-bad">
          {wordsOf(cancel.error)}
        </p>
      )}
      {runs.data.runs.length === 0 ? (
        <p className="py-6">
          None yet: open a build that has a lap, and its first run starts by itself.
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="mt-3 w-full max-w-6xl border-t-2 border-ink text-left font-figure text-[15px]">
            <thead>
              <tr className="border-b border-ink text-[13px] text-ink-2">
                {["Build", "Lap", "Cells", "Stands", "Crank throws", "Cost", "Asked", ""].map(
                  (heading) => (
                    <th
                      key={heading}
                      scope="col"
                      className={`px-2 py-1 font-medium ${WIDE_ONLY.has(heading) ? "max-sm:hidden" : ""}`}
                    >
                      {heading || <span className="sr-only">Cancel</span>}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {runs.data.runs.map((run) => (
                <tr key={run.id} className="border-b border-hair">
                  <td className="px-2 py-1">
                    <button
                      type="button"
                      className="text-left underline"
                      onClick={() => onOpen(run.build_id)}
                    >
                      {run.build_name},{" "}
                      {run.revision
                        ? `R${run.revision.number} ${run.revision.name}`
                        : `state ${run.state}`}
                    </button>
                    <span className="block text-[13px] text-ink-2 sm:hidden">
                      {run.lap_name} · {cellsOf(run)}
                    </span>
                  </td>
                  <td className="px-2 py-1 max-sm:hidden">{run.lap_name}</td>
                  <td className="px-2 py-1 max-sm:hidden">{cellsOf(run)}</td>
                  <td className="px-2 py-1">
                    <span className="flex items-center gap-2">
                      <Mark state={marks[run.status]} size={14} />
                      <span>
                        {run.status}
                        {": "}
                        {standing(run, pressure)}
                      </span>
                    </span>
                  </td>
                  <td className="px-2 py-1 whitespace-nowrap max-sm:hidden">{thrown(run)}</td>
                  <td className="px-2 py-1 whitespace-nowrap">
                    {run.cpu_s === null ? "" : `${run.cpu_s.toFixed(0)} CPU s`}
                  </td>
                  <td className="px-2 py-1 whitespace-nowrap max-sm:hidden">
                    {momentWords(run.asked_at)}
                  </td>
                  <td className="px-2 py-1">
                    {isUnderWay(run) && (
                      <Button onClick={() => cancel.mutate(run.id)}>Cancel</Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
