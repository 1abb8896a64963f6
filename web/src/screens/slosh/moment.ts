import type { Schemas } from "../../api/client";
import type { Slosh } from "../../api/queries";
import type { OilSurface } from "../../drawing/views";
import { lengthAs, volumeAs, type System, type Units } from "../../parts/units";
import { nearestIndex, oilLies } from "../../plots/traces";

type Lap = Schemas["LapForecastOut"];

/** What the screen says and draws of one moment. */
export interface Moment {
  title: string;
  words: string;
  oil: OilSurface;
  /** The pickup runs dry at this moment. */
  airy: boolean;
  /** Two short lines beside the drawing: what the mouth finds. */
  callout: readonly [string, string];
  load: { sideG: number; foreG: number };
}

const figure = (shown: { figure: string; unit: string }): string => `${shown.figure} ${shown.unit}`;

function oilWords(slosh: Slosh, system: System, units: Units): string {
  const { oil_in_pan_l: oil, capacity_to_rail_l: capacity } = slosh.drawing;
  return `${figure(volumeAs(units, system, oil))} in the pan, hot, of ${figure(volumeAs(units, system, capacity))} to the rail`;
}

function mouthWords(coverMm: number, system: System, units: Units): string {
  const by = figure(lengthAs(units, system, Math.abs(coverMm)));
  return coverMm < 0 ? `Mouth bare by ${by}` : `Mouth covered by ${by}`;
}

/** What the pump draws: the thresholds are the core's, 0.05 and 0.5. */
function pumpWords(gas: number): string {
  if (gas > 0.5) return `pump runs dry: ${(gas * 100).toFixed(0)} % air`;
  if (gas > 0.05) return `pump draws air along: ${(gas * 100).toFixed(0)} %`;
  return "pump draws oil";
}

function placeWords(lap: Lap, time: number): string {
  const corner = lap.corners.find((each) => each.start_s <= time && time <= each.end_s);
  return corner ? `Corner ${corner.number}, ${corner.hand}, at` : "At";
}

/** The oil at a moment of the lap, from the core's normal and level of the nearest sample. */
export function momentOf(
  slosh: Slosh,
  lap: Lap,
  time: number,
  system: System,
  units: Units,
): Moment {
  const { samples } = lap;
  const at = nearestIndex(samples.time_s, time);
  const sideG = samples.side_g[at] ?? 0;
  const foreG = samples.fore_g[at] ?? 0;
  const cover = samples.cover_mm[at] ?? 0;
  const lies = oilLies(sideG, foreG);
  const where = lies === "level" ? "the oil lies level" : `the oil is on the ${lies}`;
  const side = `${Math.abs(sideG).toFixed(2)} g to the side`;
  const fore = `${Math.abs(foreG).toFixed(2)} g ${foreG < 0 ? "braking" : "gaining speed"}`;
  const gas = samples.gas_share[at] ?? 0;
  const mouth = mouthWords(cover, system, units);
  return {
    title: `${placeWords(lap, time)} ${time.toFixed(1)} s: ${where}`,
    words: `${side}, ${fore}, ${(samples.speed_km_h[at] ?? 0).toFixed(0)} km/h · ${oilWords(slosh, system, units)}`,
    oil: { normal: samples.normals[at] ?? [0, 0, 1], level_mm: samples.level_mm[at] ?? 0 },
    airy: gas > 0.5,
    callout: [mouth, pumpWords(gas)],
    load: { sideG, foreG },
  };
}

/** The oil with the car at rest. */
export function standingMoment(slosh: Slosh, system: System, units: Units): Moment {
  const { standing } = slosh.drawing;
  return {
    title: "At rest: the oil lies level",
    words: oilWords(slosh, system, units),
    oil: standing,
    airy: standing.cover_mm < 0,
    callout: [mouthWords(standing.cover_mm, system, units), "car at rest"],
    load: { sideG: 0, foreG: 0 },
  };
}
