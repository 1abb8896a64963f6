import type { DryOverLap } from "../api/dry";
import { nearestIndex } from "./traces";

/** A dry sump at one moment. */
export interface Moment {
  time: number;
  panL: number;
  tankL: number;
  coverMm: number;
  /** Of oil in what each stage draws. */
  shares: number[];
  /** What each sweeps [L/min]. */
  flows: number[];
  /** Of gas where all that the stages bring has come together. */
  joined: number;
  /** Of gas in the cooler; null: there is none. */
  inCooler: number | null;
  /** Of gas in what comes into the tank. */
  intoTank: number;
  /** Oil on its way from stages to tank. */
  comingL: number;
}

/** What is shown of a lap at a time from its beginning [s]. */
export function momentAt(over: DryOverLap, time: number): Moment {
  const { traces } = over;
  const at = nearestIndex(traces.time_s, time + (traces.time_s[0] ?? 0));
  return {
    time,
    panL: traces.pan_l[at] ?? 0,
    tankL: traces.tank_l[at] ?? 0,
    coverMm: traces.cover_mm[at] ?? 0,
    shares: traces.shares.map((each) => each[at] ?? 0),
    flows: traces.flows_l_min.map((each) => each[at] ?? 0),
    joined: traces.joined[at] ?? 0,
    inCooler: traces.in_cooler[at] ?? null,
    intoTank: traces.into_tank[at] ?? 0,
    comingL: traces.coming_back_l[at] ?? 0,
  };
}
