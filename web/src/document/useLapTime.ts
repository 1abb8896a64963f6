import { useCallback } from "react";
import { usePlay, type Play } from "../parts/usePlay";
import { useBuildView } from "./BuildContext";

/** Where one is on the lap, and playing it: the same moment on every screen. */
export interface LapTime {
  time: number;
  duration: number;
  play: Play;
  goTo: (time: number) => void;
}

/** The moment that is picked; until one is, the one that a screen begins with. */
export function useLapTime(duration: number, first: number, onGo?: () => void): LapTime {
  const { picked, pick } = useBuildView();
  const time = Math.min(picked ?? first, duration);
  const goTo = useCallback(
    (to: number) => {
      onGo?.();
      pick(to);
    },
    [onGo, pick],
  );
  return { time, duration, play: usePlay(duration, time, goTo), goTo };
}
