import { useMemo } from "react";
import { useFrames } from "../../api/frames";
import type { Slosh } from "../../api/queries";
import type { Latest } from "../../api/runs";
import { useSettings } from "../../parts/settings";
import type { MovingFrame } from "../../scene/PanScene";
import type { Moment } from "./moment";
import { movingSentence } from "./movingSentence";

/** The frame of the moving oil to draw at a time of the lap, and the moment told in its words. */
export function useMovingOil({
  slosh,
  latest,
  moves,
  drawn,
  time,
  lies,
}: {
  slosh: Slosh | undefined;
  latest: Latest | undefined;
  /** Whether figures of moving oil are wanted at this moment. */
  moves: boolean;
  /** Whether the picture shown can draw it. */
  drawn: boolean;
  time: number;
  lies: Moment | null;
}): { moving: MovingFrame | null; moment: Moment | null } {
  const { system, units } = useSettings();
  const figures = moves ? (latest?.figures ?? null) : null;
  const runId = figures && drawn ? (latest?.finished?.id ?? null) : null;
  const frames = useFrames(runId).data;
  const index = frames ? Math.min(frames.count - 1, Math.round(time * frames.rate)) : 0;
  const moving = useMemo(
    () => (frames && runId !== null ? { frames, index } : null),
    [frames, index, runId],
  );
  if (!figures || !lies || !slosh) return { moving, moment: lies };
  const settled = {
    toCoverL: lies.toCoverL,
    inPanL: slosh.drawing.oil_in_pan_l,
    airy: lies.airy,
  };
  return {
    moving,
    moment: { ...lies, sentence: movingSentence(figures, time, settled, system, units) },
  };
}
