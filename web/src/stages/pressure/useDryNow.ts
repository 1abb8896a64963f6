import { useDrySump, type Dry } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { isDrySump } from "../../document/circuit/circuit";
import { momentAt, type Moment } from "../../plots/dryMoment";
import { nearestIndex } from "../../plots/traces";

/** A dry sump at a moment of the lap. */
export interface DryNow {
  tank: Dry["tank"];
  /** Null: there is no lap. */
  moment: Moment | null;
  /** How steeply the tank's surface rises to the right, looking toward the nose. */
  lean: number;
}

/** What tank, pan and scavenge have at a time; null of a wet sump, and until it has come. */
export function useDryNow(time: number): DryNow | null {
  const { build, forecast } = useBuildView();
  const isDry = isDrySump(build.document.circuit);
  const stage = useDrySump(build, forecast.latest?.finished?.id ?? null, isDry).data;
  if (!isDry || !stage?.dry) return null;
  const over = stage.moving ?? stage.dry.over_lap;
  const samples = forecast.settled.data?.lap?.samples;
  return {
    tank: stage.dry.tank,
    moment: over ? momentAt(over, time) : null,
    // in a left-hand corner it is thrown to the right
    lean: samples?.side_g[nearestIndex(samples.time_s, time)] ?? 0,
  };
}
