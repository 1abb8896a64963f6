import type { Drain } from "../../api/drains";
import { lengthAs, shownAs, type System, type Units } from "../../parts/units";
import { spare, type Now } from "./elevation";

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

/** The title: what of the drain there is to say at this moment. */
export function titleOf(drain: Drain, now: Now, where: string, shown: Unit): string {
  const left = spare(now);
  const name = `the ${drain.name}`;
  if (left <= -0.5) return `${where}: ${name} is ${lengthIn(shown, left)} of head short`;
  return `${where}: ${name} has ${lengthIn(shown, left)} of head to spare`;
}
