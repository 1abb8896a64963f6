import type { Schemas } from "../../api/client";
import type { Drain } from "../../api/drains";
import { lengthAs, shownAs, type System, type Units } from "../../parts/units";
import { spare, type Now } from "./elevation";

type Lap = Schemas["LapForecastOut"];

export interface Unit {
  units: Units;
  system: System;
}

/** A length in the units shown, its sign gone. */
export function lengthIn({ units, system }: Unit, mm: number): string {
  const { figure, unit } = lengthAs(units, system, Math.abs(mm));
  return `${figure} ${unit}`;
}

/** A flow in the units shown. */
export function flowIn({ units, system }: Unit, lMin: number): string {
  const shown = shownAs(units, "flow_l_min", system, lMin);
  return shown ? `${shown.figure} ${shown.unit}` : `${lMin.toFixed(1)} L/min`;
}

/** Where on the lap a moment is, as one says it. */
export function whereOn(lap: Lap | null, time: number): string {
  const corner = lap?.corners.find(({ start_s, end_s }) => time >= start_s && time <= end_s);
  if (!corner) return "";
  return `${corner.name ?? `Corner ${corner.number}`}, ${corner.hand}, `;
}

/** The title: what of the drain there is to say at this moment. */
export function titleOf(drain: Drain, now: Now, where: string, shown: Unit): string {
  const left = spare(now);
  const name = `the ${drain.name}`;
  const at = where.charAt(0).toUpperCase() + where.slice(1);
  if (left <= -0.5) return `${at}: ${name} is ${lengthIn(shown, left)} of head short`;
  return `${at}: ${name} has ${lengthIn(shown, left)} of head to spare`;
}
