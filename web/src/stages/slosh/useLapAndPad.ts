import { useCallback, useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { useLapTime } from "../../document/useLapTime";
import type { Load } from "../../plots/rose";
import type { Play } from "../../parts/usePlay";

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
  const [pad, setPad] = useState<Load | null>(null);
  const leavePad = useCallback(() => setPad(null), []);
  const { time, duration, play, goTo } = useLapTime(
    lap?.duration_s ?? 0,
    lap?.dips[0]?.worst_s ?? lap?.least_cover_at_s ?? 0,
    leavePad,
  );
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
