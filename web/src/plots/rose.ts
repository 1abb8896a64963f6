import type { Schemas } from "../api/client";
import type { Place } from "./labels";

type Rose = Schemas["RoseOut"];
type Held = Schemas["HeldOut"];

export interface Load {
  sideG: number;
  foreG: number;
}

/** Page and load: the page shows where the oil is thrown, braking up, a left turn to the right. */
export interface Dial {
  size: number;
  radius: number;
  /** Load at the rim [g]. */
  rim: number;
}

export const placeOf = ({ size, radius, rim }: Dial, { sideG, foreG }: Load): Place => [
  size / 2 + (sideG / rim) * radius,
  size / 2 + (foreG / rim) * radius,
];

/** The load at a place on the page, held to the rim and to a hundredth of g. */
export function loadAt({ size, radius, rim }: Dial, [x, y]: Place): Load {
  const sideG = ((x - size / 2) / radius) * rim;
  const foreG = ((y - size / 2) / radius) * rim;
  return heldTo(rim, { sideG, foreG });
}

/** A load no greater than the rim's, in its own direction. */
export function heldTo(rim: number, { sideG, foreG }: Load): Load {
  const total = Math.hypot(sideG, foreG);
  const scale = total > rim ? rim / total : 1;
  const round = (g: number): number => Math.round(g * scale * 100) / 100 + 0;
  return { sideG: round(sideG), foreG: round(foreG) };
}

/** An edge as places on the page; directions that hold to the limit lie beyond the rim. */
export function edgePlaces(
  dial: Dial,
  thrownDeg: readonly number[],
  dryFromG: readonly (number | null)[],
): Place[] {
  return thrownDeg.map((thrown, index) => {
    const g = Math.min(dryFromG[index] ?? dial.rim * 2, dial.rim * 2);
    const angle = (thrown * Math.PI) / 180;
    // thrown forward is a car that brakes, thrown left a car that turns right
    return placeOf(dial, { sideG: -g * Math.sin(angle), foreG: -g * Math.cos(angle) });
  });
}

/** The edge if `volumeL` in the mouth's own zone were all the oil: between the core's tabulated ones. */
export function heldEdge(held: Held, rose: Rose, volumeL: number): (number | null)[] {
  const volumes = held.volumes_l;
  let k = 0;
  while (k < volumes.length - 2 && (volumes[k + 1] ?? 0) < volumeL) k += 1;
  const [from, to] = [volumes[k] ?? 0, volumes[k + 1] ?? 0];
  const part = to > from ? Math.min(1, Math.max(0, (volumeL - from) / (to - from))) : 1;
  return rose.thrown_deg.map((_, index) => {
    const [low, high] = [held.dry_from_g[k]?.[index], held.dry_from_g[k + 1]?.[index]];
    if (low == null) return null;
    if (high == null) return part > 0.5 ? null : low;
    return low + part * (high - low);
  });
}

/** Load in words: which way the car goes. */
export function loadWords({ sideG, foreG }: Load): string {
  const words: string[] = [];
  if (Math.abs(sideG) >= 0.005)
    words.push(`${Math.abs(sideG).toFixed(2)} g ${sideG > 0 ? "left turn" : "right turn"}`);
  if (Math.abs(foreG) >= 0.005)
    words.push(`${Math.abs(foreG).toFixed(2)} g ${foreG > 0 ? "gaining speed" : "braking"}`);
  return words.join(", ") || "no load";
}
