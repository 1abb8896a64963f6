import { useEffect, useRef, useState } from "react";

export const SPEEDS = [1, 0.25] as const;
export type Speed = (typeof SPEEDS)[number];

/** Milliseconds between pictures for those who asked for less motion. */
const CALM = 400;

export interface Play {
  playing: boolean;
  speed: Speed;
  toggle: () => void;
  setSpeed: (speed: Speed) => void;
}

/** The moment after a while of playing; at the lap's end it stays there. */
export function played(time: number, elapsedS: number, speed: number, duration: number): number {
  return Math.min(duration, time + elapsedS * speed);
}

/** Plays a lap: real or slow speed; started at the end it begins again. */
export function usePlay(duration: number, time: number, onTime: (time: number) => void): Play {
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState<Speed>(1);
  const now = useRef(time);
  const show = useRef(onTime);
  useEffect(() => {
    now.current = time;
    show.current = onTime;
  }, [time, onTime]);

  useEffect(() => {
    if (!playing) return undefined;
    const calm = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    let last = performance.now();
    let frame = 0;
    const step = (at: number): void => {
      const next = played(now.current, (at - last) / 1000, speed, duration);
      last = at;
      now.current = next;
      show.current(next);
      if (next >= duration) setPlaying(false);
      else if (!calm) frame = requestAnimationFrame(step);
    };
    if (!calm) frame = requestAnimationFrame(step);
    const timer = calm ? window.setInterval(() => step(performance.now()), CALM) : 0;
    return () => {
      cancelAnimationFrame(frame);
      window.clearInterval(timer);
    };
  }, [playing, speed, duration]);

  return {
    playing,
    speed,
    setSpeed,
    toggle: () => {
      if (!playing && now.current >= duration - 0.01) {
        now.current = 0;
        onTime(0);
      }
      setPlaying(!playing);
    },
  };
}
