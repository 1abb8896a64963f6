import type { Slosh } from "../../api/queries";
import { volumeAs, type System, type Units } from "../../parts/units";
import { oilLies } from "../../plots/traces";
import type { Load } from "../../plots/rose";

/** What the sentence is made from: litres in each zone and to cover the mouth, at one moment. */
export interface Whereabouts {
  zonesL: readonly number[];
  toCoverL: number;
  airy: boolean;
  load: Load;
}

const SMALL = 0.05; // L: below it a zone is as good as empty

/** "2.9 L in the shelf, 1.1 L in the kick-out": the zones that hold most, the mouth's own last. */
function sharesOf(
  names: readonly string[],
  zonesL: readonly number[],
  own: number,
  words: (litres: number) => string,
): string {
  const others = zonesL
    .map((litres, index) => ({ litres, index }))
    .filter(({ litres, index }) => index !== own && litres > SMALL)
    .sort((one, other) => other.litres - one.litres)
    .slice(0, 3);
  const parts = others.map(({ litres, index }) => `${names[index] ?? "zone"} ${words(litres)}`);
  return [...parts, `${names[own] ?? "the mouth's zone"} ${words(zonesL[own] ?? 0)}`].join(", ");
}

/**
 * Where the oil is and what keeps it there, from the core's numbers: litres by zone, and what the
 * pan would have to hold for the mouth to be covered under this load.
 */
export function oilSentence(
  slosh: Slosh,
  { zonesL, toCoverL, airy, load }: Whereabouts,
  system: System,
  units: Units,
): string {
  const words = (litres: number): string => {
    const { figure, unit } = volumeAs(units, system, litres);
    return `${figure} ${unit}`;
  };
  const { drawing, held } = slosh;
  const total = drawing.oil_in_pan_l;
  const shares = sharesOf(
    drawing.zones.map((zone) => zone.name),
    zonesL,
    held.zone,
    words,
  );
  const side = oilLies(load.sideG, load.foreG);
  // plates do hold it back, but settled oil does not feel them: then nothing is said of it
  const bare = drawing.plates.length === 0 ? "; nothing in the pan holds it back" : "";
  const keeps = side === "level" ? "" : ` The load holds it on the ${side}${bare}.`;
  if (!airy)
    return `Of ${words(total)} in the pan: ${shares}.${keeps} ${words(toCoverL)} would cover the mouth here: ${words(total - toCoverL)} to spare.`;
  const short = `${words(toCoverL - total)} short`;
  const remedy =
    toCoverL > drawing.capacity_to_rail_l
      ? `${words(toCoverL)} would have to be in the pan, more than it holds to the rail: keep the oil near the mouth, or move the mouth.`
      : `${words(toCoverL)} would have to be in the pan to cover the mouth: ${short}.`;
  return `The oil is there, ${words(total)} of it: ${shares}.${keeps} ${remedy}`;
}
