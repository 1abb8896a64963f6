import type { Slosh } from "../../api/queries";
import type { Moving } from "../../api/runs";
import { useMovingFrame } from "../../document/useMovingFrame";
import type { MovingFrame } from "../../drawing/movingOil";
import { useSettings } from "../../parts/settings";
import type { Moment } from "./moment";
import { movingSentence } from "./movingSentence";

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
  const { moving, error } = useMovingFrame(runId, figures, time);
  if (!figures || !lies || !slosh) return { moving, moment: lies, error };
  const settled = {
    toCoverL: lies.toCoverL,
    inPanL: slosh.drawing.oil_in_pan_l,
    airy: lies.airy,
  };
  const sentence = movingSentence(figures, time, settled, settings);
  return { moving, moment: { ...lies, sentence }, error };
}
