import { useMemo } from "react";
import { useFrames } from "../api/frames";
import type { Moving } from "../api/runs";
import type { MovingFrame } from "../drawing/movingOil";
import { lookAt } from "./moving";

/** The frame of a run's moving oil at a time of the lap, its gates as they then stand. */
export function useMovingFrame(
  /** The run whose record is wanted, which may be there before its figures are. */
  runId: number | null,
  figures: Moving | null,
  time: number,
): { moving: MovingFrame | null; error: Error | null } {
  const { data: frames, error } = useFrames(runId);
  const index = frames ? Math.min(frames.count - 1, Math.round(time * frames.rate)) : 0;
  const look = figures ? lookAt(figures, time) : 0;
  const moving = useMemo((): MovingFrame | null => {
    if (!frames || !figures) return null;
    const gates = Object.entries(figures.samples.gates_open);
    return {
      frames,
      index,
      gatesOpen: Object.fromEntries(gates.map(([name, shares]) => [name, shares[look] ?? 0])),
    };
  }, [frames, figures, index, look]);
  return { moving, error };
}
