import type { Schemas } from "../../api/client";

type Verdict = Schemas["DrainsVerdict"];

/** What the drains do over the lap that they do worst over; undefined where there are none. */
export function worstDrain(over: readonly Schemas["OverLap"][]): Verdict | undefined {
  const told = over.flatMap(({ drains }) => (drains ? [drains] : []));
  return [...told].sort((a, b) => (a.spare_mm ?? Infinity) - (b.spare_mm ?? Infinity))[0];
}
