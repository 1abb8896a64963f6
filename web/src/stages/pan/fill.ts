import type { Schemas } from "../../api/client";
import { between } from "../../drawing/tilt";
import type { OilSurface } from "../../drawing/views";

type Fill = Schemas["FillOut"];

/** Height above the lowest point at a fill, read from the core's curve. */
export function heightAt(fill: Fill, litres: number): number {
  const volumes = fill.curve_l_mm.map(([volume]) => volume);
  const { at, part } = between(volumes, litres);
  const [from, to] = [fill.curve_l_mm[at]?.[1] ?? 0, fill.curve_l_mm[at + 1]?.[1] ?? 0];
  return from + part * (to - from);
}

/** The oil standing at a fill. */
export const standingAt = (fill: Fill, litres: number): OilSurface => ({
  normal: fill.normal,
  level_mm: fill.lowest_mm + heightAt(fill, litres),
});
