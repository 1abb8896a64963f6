import { useCallback, useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import type { Load } from "../../plots/rose";
import { usePlay, type Play } from "../../plots/usePlay";

type Lap = Schemas["LapForecastOut"];

/** Where one is: at a time of the lap, or under a load of the pad's own. */
export interface LapAndPad {
  time: number;
  duration: number;
  /** The pad's load; null at the lap's own moment. */
  pad: Load | null;
  /** A steady load is shown, not a moment of the lap. */
  steady: boolean;
  play: Play;
  setPad: (load: Load | null) => void;
  goTo: (time: number) => void;
  /** A lap that plays on would take each moment away before it is painted. */
  hold: () => void;
}

/** The time that is picked, first that of the worst dip; the pad's load, which stops the lap. */
export function useLapAndPad(lap: Lap | null): LapAndPad {
  const [picked, setPicked] = useState<number | null>(null);
  const [pad, setPad] = useState<Load | null>(null);
  const duration = lap?.duration_s ?? 0;
  const time = Math.min(picked ?? lap?.dips[0]?.worst_s ?? lap?.least_cover_at_s ?? 0, duration);
  const goTo = useCallback((to: number) => {
    setPad(null);
    setPicked(to);
  }, []);
  const play = usePlay(duration, time, goTo);
  const { playing, toggle } = play;
  useEffect(() => {
    if (pad && playing) toggle();
  }, [pad, playing, toggle]);
  const hold = (): void => {
    if (playing) toggle();
    setPad(null);
  };
  return { time, duration, pad, steady: pad !== null || !lap, play, setPad, goTo, hold };
}
