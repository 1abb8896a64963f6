import type { System } from "../../parts/units";
import type { TypedPlace } from "./PlacesDrawing";

const MM = { mm: 1, cm: 10, in: 25.4, '"': 25.4 } as const;
const LENGTH = /^([-−]?)\s*(\d+(?:[.,]\d+)?)?(?:(?:^|\s+|(?<=[-−]))(\d+)\/(\d+))?\s*(mm|cm|in|")?$/;

/** A length as it is typed [mm], in the sheet's unit where it has none; null while it is none. */
export function typedMm(text: string, system: System): number | null {
  const found = LENGTH.exec(text.trim());
  if (!found) return null;
  const [, minus, whole, above, below, unit] = found;
  if (whole === undefined && above === undefined) return null;
  const part = above === undefined ? 0 : Number(above) / Number(below);
  const figure = Number((whole ?? "0").replace(",", ".")) + part;
  const mm = figure * MM[(unit ?? (system === "metric" ? "mm" : "in")) as keyof typeof MM];
  return Number.isFinite(mm) ? (minus ? -mm : mm) : null;
}

/** Three figures as they are typed, the last over the rail or, where `isUnder`, under it. */
export function typedPlace(
  words: string,
  typed: readonly [string, string, string],
  system: System,
  isUnder: boolean,
): TypedPlace {
  const [ahead, left, high] = typed;
  const up = typedMm(high, system);
  return {
    words,
    at_mm: [typedMm(ahead, system), typedMm(left, system), up === null ? null : isUnder ? -up : up],
  };
}
