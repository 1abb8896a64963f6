import type { Moving } from "../../api/runs";
import { volumeAs } from "../../parts/units";
import { lookAt } from "../../document/moving";
import type { Telling } from "./moment";

/** Where the moving oil is at a moment, which gates stand open, and what settled oil would do. */
export function movingSentence(
  moving: Moving,
  time: number,
  settled: { toCoverL: number; inPanL: number; airy: boolean },
  { system, units, limits }: Telling,
): string {
  const small = limits.splashL; // below it nothing is said of a place
  const words = (litres: number): string => {
    const { figure, unit } = volumeAs(units, system, litres);
    return `${figure} ${unit}`;
  };
  const { samples } = moving;
  const at = lookAt(moving, time);
  const places = Object.entries(samples.litres).map(([name, litres]) => ({
    name,
    litres: litres[at] ?? 0,
  }));
  const total = places.reduce((sum, { litres }) => sum + litres, 0);
  const lying = places
    .filter(({ litres }) => litres > small)
    .sort((one, other) => other.litres - one.litres)
    .map(({ name, litres }) => `${words(litres)} ${name}`);
  const where =
    places.length > 1
      ? `Of ${words(total)} in motion, ${lying.join(", ")}.`
      : `${words(total)} in motion; no plate parts the pan.`;
  const gates = Object.entries(samples.gates_open);
  const open = gates.filter(([, shares]) => (shares[at] ?? 0) >= 0.5).map(([name]) => name);
  const doors =
    gates.length === 0 ? "" : open.length === 0 ? " All gates shut." : ` Open: ${open.join("; ")}.`;
  const crank = samples.crank_l[at] ?? 0;
  const touched = crank > small ? ` ${words(crank)} in the crank's sweep.` : "";
  const above = samples.up_top_l[at];
  const upTop = above === undefined ? "" : ` ${words(above)} is up top and on its way down.`;
  const covers = settled.toCoverL <= settled.inPanL;
  const rest =
    settled.airy && covers
      ? " Settled under this load it would cover the mouth: it is on its way."
      : !settled.airy && !covers
        ? " Settled under this load it would leave the mouth bare."
        : "";
  return where + doors + touched + upTop + rest;
}
