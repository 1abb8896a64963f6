import type { Schemas } from "../../api/client";
import type { Slosh } from "../../api/queries";
import { useFigures, useFinishedRuns, useScene, type Run } from "../../api/runs";
import type { CutAt } from "../../drawing/views";
import { useSettings } from "../../parts/settings";
import { withMoving } from "../../document/moving";
import { besidesOf, inStep, runName, shortName } from "./besides";
import { momentOf } from "./moment";
import type { Pictured } from "./Picture";
import { useCut } from "./useCut";
import { useMovingOil } from "./useMovingOil";

type Lap = Schemas["LapForecastOut"];

export interface Beside {
  /** Runs that could stand there. */
  offered: Run[];
  pictured: Pictured | null;
  lap: Lap | null;
  /** Why it cannot be shown. */
  error: Error | null;
}

/** Another finished run beside the one shown, in step with it. */
export function useBeside({
  wantedId,
  shownId,
  lap,
  time,
  moves,
  cut,
}: {
  wantedId: number | null;
  shownId: number | null;
  lap: Lap | null;
  time: number;
  moves: boolean;
  cut: CutAt;
}): Beside {
  const settings = useSettings();
  const runs = useFinishedRuns(shownId);
  const offered = besidesOf(runs.data ?? [], shownId);
  const run = offered.find(({ id }) => id === wantedId) ?? null;
  const runId = run?.id ?? null;
  const scene = useScene(runId);
  const figures = useFigures(runId, run?.state);
  const drawing = useCut(scene.data?.drawing, run?.build_id ?? null, run?.state ?? null, cut);
  const told: Slosh | undefined =
    scene.data && figures.data && moves ? withMoving(scene.data, figures.data) : scene.data;
  const other = told?.lap ?? null;
  const at = lap && other ? inStep(lap, other, time) : 0;
  const lies = told && other ? momentOf(told, other, at, told !== scene.data, settings) : null;
  const { moving, moment, error } = useMovingOil({
    slosh: told,
    figures: moves ? (figures.data ?? null) : null,
    runId: moves ? runId : null,
    time: at,
    lies,
  });
  return {
    offered,
    pictured:
      run && drawing && moment && other
        ? {
            label: `dry ${other.dry_s.toFixed(1)} s · ${runName(run)}`,
            drawing,
            moment,
            moving,
          }
        : null,
    lap: run && other ? { ...other, lap_name: shortName(run) } : null,
    error: scene.error ?? figures.error ?? error ?? runs.error,
  };
}
