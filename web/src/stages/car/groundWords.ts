import type { PanFigures } from "../../api/queries";
import { lengthAs, type System, type Units } from "../../parts/units";

type Ground = NonNullable<PanFigures["ground"]>;

/** How far the pan's lowest corner is over the ground, or under it, and against what is wanted. */
export function groundWords(ground: Ground, units: Units, system: System): string {
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, Math.abs(mm));
    return `${figure} ${unit}`;
  };
  const { gap_mm: gap, margin_mm: margin } = ground;
  const ahead = `${length(ground.at_mm[0])} ${ground.at_mm[0] < 0 ? "behind" : "ahead of"} the rear face`;
  const where =
    gap < 0
      ? `The pan's lowest corner, ${ahead}, is ${length(gap)} under the ground`
      : `${length(gap)} under the pan's lowest corner, ${ahead}`;
  if (margin === null) return where;
  return `${where}: ${length(margin)} ${margin < 0 ? "less than" : "more than"} wanted`;
}
