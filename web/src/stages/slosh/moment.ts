import type { Schemas } from "../../api/client";
import type { Slosh } from "../../api/queries";
import { oilUnder } from "../../drawing/tilt";
import type { OilSurface } from "../../drawing/views";
import type { Settings } from "../../parts/settings";
import { lengthAs, volumeAs } from "../../parts/units";
import { placeWords } from "../../plots/place";
import { loadWords, type Load } from "../../plots/rose";
import { nearestIndex, oilLies } from "../../plots/traces";
import { oilSentence } from "./sentence";

type Lap = Schemas["LapForecastOut"];
/** How things are told: in which units, and by which limits. */
export type Telling = Pick<Settings, "system" | "units" | "limits">;

/** What the screen says and draws of one moment. */
export interface Moment {
  title: string;
  words: string;
  oil: OilSurface;
  /** The pickup runs dry at this moment. */
  airy: boolean;
  /** Two short lines beside the drawing: what the mouth finds. */
  callout: readonly [string, string];
  load: Load;
  coverMm: number;
  /** What lies in each zone. */
  zonesL: readonly number[];
  /** What the pan would have to hold for the mouth to be covered by settled oil. */
  toCoverL: number;
  /** Where the oil is and what keeps it there. */
  sentence: string;
}

/** The car at rest: no load but gravity. */
export const AT_REST: Load = { sideG: 0, foreG: 0 };

const figure = (shown: { figure: string; unit: string }): string => `${shown.figure} ${shown.unit}`;

function oilWords(slosh: Slosh, { system, units }: Telling): string {
  const { oil_in_pan_l: oil, capacity_to_rail_l: capacity } = slosh.drawing;
  return `${figure(volumeAs(units, system, oil))} in the pan, hot, of ${figure(volumeAs(units, system, capacity))} to the rail`;
}

/** Of a bare mouth in moving oil no distance is told: the next oil may be anywhere. */
function mouthWords(coverMm: number, moves: boolean, { system, units }: Telling): string {
  if (moves && coverMm < 0) return "Mouth bare";
  const by = figure(lengthAs(units, system, Math.abs(coverMm)));
  return coverMm < 0 ? `Mouth bare by ${by}` : `Mouth covered by ${by}`;
}

/** What the pump draws, by the core's rules. */
function pumpWords(gas: number, { limits }: Telling): string {
  if (gas > limits.runsDry) return `pump runs dry: ${(gas * 100).toFixed(0)} % air`;
  if (gas > limits.drawsAir) return `pump draws air along: ${(gas * 100).toFixed(0)} %`;
  return "pump draws oil";
}

const whereWords = (load: Load): string => {
  const lies = oilLies(load.sideG, load.foreG);
  return lies === "level" ? "the oil lies level" : `the oil is on the ${lies}`;
};

/** The oil at a moment of the lap, from the core's normal and level of the nearest sample. */
export function momentOf(
  slosh: Slosh,
  lap: Lap,
  time: number,
  /** Whether cover and gas share are those of moving oil. */
  moves: boolean,
  telling: Telling,
): Moment {
  const { samples } = lap;
  const at = nearestIndex(samples.time_s, time);
  const load = { sideG: samples.side_g[at] ?? 0, foreG: samples.fore_g[at] ?? 0 };
  const cover = samples.cover_mm[at] ?? 0;
  const gas = samples.gas_share[at] ?? 0;
  const zonesL = lap.zones_l.map((zone) => zone[at] ?? 0);
  const airy = gas > telling.limits.runsDry;
  const toCoverL = samples.to_cover_l[at] ?? 0;
  return {
    title: `${placeWords(lap, time)}: ${whereWords(load)}`,
    words: `${loadWords(load)}, ${(samples.speed_km_h[at] ?? 0).toFixed(0)} km/h · ${oilWords(slosh, telling)}`,
    oil: { normal: samples.normals[at] ?? [0, 0, 1], level_mm: samples.level_mm[at] ?? 0 },
    airy,
    callout: [mouthWords(cover, moves, telling), pumpWords(gas, telling)],
    load,
    coverMm: cover,
    zonesL,
    toCoverL,
    sentence: oilSentence(slosh, { zonesL, toCoverL, airy, load }, telling.system, telling.units),
  };
}

/** The oil under a steady load set on the pad, or at rest, from the core's table. */
export function padMoment(slosh: Slosh, load: Load, telling: Telling): Moment {
  const { oil, zonesL, toCoverL } = oilUnder(slosh.tilt, load.sideG, load.foreG);
  const { mouth } = slosh.drawing;
  const [x, y, z] = oil.normal;
  const cover = oil.level_mm - (x * mouth.x_mm + y * mouth.y_mm + z * mouth.z_mm);
  const airy = cover < 0;
  const still = load.sideG === 0 && load.foreG === 0;
  return {
    title: `${still ? "At rest" : `Steady ${Math.hypot(load.sideG, load.foreG).toFixed(2)} g`}: ${whereWords(load)}`,
    words: `${loadWords(load)} · ${oilWords(slosh, telling)}`,
    oil,
    airy,
    callout: [
      mouthWords(cover, false, telling),
      airy ? "pump runs dry" : still ? "car at rest" : "pump draws oil",
    ],
    load,
    coverMm: cover,
    zonesL,
    toCoverL,
    sentence: oilSentence(slosh, { zonesL, toCoverL, airy, load }, telling.system, telling.units),
  };
}
