import { useEffect, useState } from "react";
import { useBuildView } from "../../document/BuildContext";
import type { MovingFrame } from "../../drawing/movingOil";
import type { CutAt, Drawing } from "../../drawing/views";
import { useSettings } from "../../parts/settings";
import { AT_REST, momentOf, padMoment, type Moment } from "./moment";
import { useCut } from "./useCut";
import type { LapAndPad } from "./useLapAndPad";
import { useMovingOil } from "./useMovingOil";

/** How long the first picture waits for the moving oil rather than to show settled oil [ms]. */
const WAIT = 700;

/** Whether the screen has only just been opened. */
function useFirstMoments(): boolean {
  const [isFirst, setFirst] = useState(true);
  useEffect(() => {
    const timer = window.setTimeout(() => setFirst(false), WAIT);
    return () => window.clearTimeout(timer);
  }, []);
  return isFirst;
}

/** What is seen at a moment: the pan cut where it is wanted, with the oil as it lies there. */
export interface Sight {
  drawing: Drawing | undefined;
  moment: Moment | null;
  moving: MovingFrame | null;
  /** Why the moving oil cannot be drawn. */
  error: Error | null;
  /** The moving oil is on its way, and there is a moment to wait for it. */
  isHeld: boolean;
}

/** The oil at a time of the lap or under the pad's load, moving where that is known and wanted. */
export function useSight({ time, pad, steady }: LapAndPad, cut: CutAt): Sight {
  const settings = useSettings();
  const { build, forecast } = useBuildView();
  const { settled, shown, latest, figures, moves } = forecast;
  const lap = shown?.lap ?? null;
  const lies =
    shown &&
    (lap && !pad
      ? momentOf(shown, lap, time, shown !== settled.data, settings)
      : padMoment(shown, pad ?? AT_REST, settings));
  const runId = latest?.finished?.id ?? null;
  const { moving, moment, error } = useMovingOil({
    slosh: shown,
    figures: moves && !steady ? figures : null,
    runId: moves ? runId : null,
    time,
    lies: lies ?? null,
  });
  const isAwaited = moves && !steady && !moving && (!latest || (runId !== null && !error));
  const isFirst = useFirstMoments();
  const drawing = useCut(shown?.drawing, build.id, shown?.state ?? null, cut);
  return { drawing, moment, moving, error: moves ? error : null, isHeld: isAwaited && isFirst };
}
