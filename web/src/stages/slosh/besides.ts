import type { Schemas } from "../../api/client";
import type { Run } from "../../api/runs";
import { CELLS } from "../../document/moving";
import { alignedTimes } from "../../plots/traces";

type Lap = Schemas["LapForecastOut"];

/** Which build and state a run is of. */
export const shortName = (run: Run): string =>
  `${run.build_name}, ${run.revision ? `R${run.revision.number}` : `state ${run.state}`}`;

/** What a run is of. */
export function runName(run: Run): string {
  const name = run.revision ? `${shortName(run)} ${run.revision.name}` : shortName(run);
  return `${name} · ${run.lap_name} · ${CELLS[run.cells]}`;
}

/** Finished runs that can stand beside the one shown: one of a kind, those of revisions first. */
export function besidesOf(runs: readonly Run[], shownId: number | null): Run[] {
  const shown = runs.find((run) => run.id === shownId);
  const kind = (run: Run): string => `${run.build_id} ${run.state} ${run.lap_id} ${run.cells}`;
  const taken = new Set(shown ? [kind(shown)] : []);
  const found = runs.filter((run) => {
    if (run.status !== "finished" || run.seed !== 0 || taken.has(kind(run))) return false;
    taken.add(kind(run));
    return true;
  });
  const isNamed = (run: Run): number => (run.revision || run.is_current ? 0 : 1);
  return found.sort((one, other) => isNamed(one) - isNamed(other) || other.id - one.id);
}

/** The time in another lap that is in step: the same in the same lap, else the same place. */
export function inStep(lap: Lap, other: Lap, time: number): number {
  if (lap.lap_id === other.lap_id) return Math.min(time, other.duration_s);
  const times = alignedTimes(lap.samples, other.samples);
  const found = times.findIndex((each) => each >= time);
  return other.samples.time_s[found < 0 ? times.length - 1 : found] ?? 0;
}
