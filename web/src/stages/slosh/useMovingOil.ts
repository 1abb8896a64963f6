import { useMemo } from "react";
import { useFrames } from "../../api/frames";
import type { Slosh } from "../../api/queries";
import type { Moving } from "../../api/runs";
import type { MovingFrame } from "../../drawing/movingOil";
import { useSettings } from "../../parts/settings";
import type { Moment } from "./moment";
import { lookAt, movingSentence } from "./movingSentence";

/** The frame of the moving oil to draw at a time of the lap, and the moment told in its words. */
export function useMovingOil({
  slosh,
  figures,
  runId,
  time,
  lies,
}: {
  slosh: Slosh | undefined;
  /** Of the moving oil, where they are wanted at this moment. */
  figures: Moving | null;
  /** The run whose record is wanted, which may be there before its figures are. */
  runId: number | null;
  time: number;
  lies: Moment | null;
}): { moving: MovingFrame | null; moment: Moment | null; error: Error | null } {
  const settings = useSettings();
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
  if (!figures || !lies || !slosh) return { moving, moment: lies, error };
  const settled = {
    toCoverL: lies.toCoverL,
    inPanL: slosh.drawing.oil_in_pan_l,
    airy: lies.airy,
  };
  const sentence = movingSentence(figures, time, settled, settings);
  return { moving, moment: { ...lies, sentence }, error };
}
