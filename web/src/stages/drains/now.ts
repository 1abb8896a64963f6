import type { Schemas } from "../../api/client";
import type { Drain, DrainsStage } from "../../api/drains";
import { nearestIndex } from "../../plots/traces";
import type { Now } from "./elevation";

const pick = (values: readonly number[], at: number): number => values[at] ?? 0;

/** How a drain stands at a moment of the lap. */
export function nowAt(stage: DrainsStage, drain: Drain, time: number): Now {
  const at = nearestIndex(stage.time_s, time);
  const { samples } = drain;
  return {
    up: stage.up[at] ?? [0, 0, 1],
    levelMm: pick(stage.level_mm, at),
    thereMm: pick(samples.there_mm, at),
    neededMm: pick(samples.needed_mm, at),
    pushMm: pick(samples.push_mm, at),
    underMm: pick(samples.under_mm, at),
    sealed: pick(samples.sealed, at) === 1,
    fill: drain.fill[at] ?? [],
    heldMl: pick(samples.held_ml, at),
  };
}

/** How it stands under a load of the pad; null until that is known. */
export function nowUnder(at: Schemas["AtLoadOut"] | undefined, drain: Drain): Now | null {
  const found = at?.stands.find(({ run }) => run === drain.run);
  if (!at || !found) return null;
  return {
    up: at.up,
    levelMm: at.level_mm,
    thereMm: found.there_mm,
    neededMm: found.needed_mm,
    pushMm: found.push_mm,
    underMm: found.under_mm,
    sealed: found.sealed,
    fill: found.fill,
    heldMl: null,
  };
}
