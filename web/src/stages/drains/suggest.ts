import type { Schemas } from "../../api/client";
import type { BuildDocument } from "../../api/queries";
import type { Drain } from "../../api/drains";
import type { Now } from "./elevation";

type Dash = NonNullable<Schemas["TuneDrain"]["dash"]>;

const SIZES: readonly Dash[] = [6, 8, 10, 12, 16, 20];
const BREATHERS = [9, 12, 14, 16, 20, 25, 32]; // [mm]
const GAS_COUNTS = 0.25; // of the head needed, from which gas is what to begin with

/** What is fitted of what can be set at a drain: null where nobody told. */
export function fittedAt(
  document: BuildDocument,
  drain: Drain,
): {
  dash: Dash | null;
  openingMm: number | null;
  restrictorMm: number | null;
  sealMm: number | null;
} {
  const { components, runs } = document.circuit;
  const line = runs.find(({ id }) => id === drain.run)?.line;
  const breather = components.find(({ kind }) => kind === "breather");
  const turbo = components.find(({ id }) => id === drain.component);
  const feed = runs.find(({ end }) => end.component === drain.component && end.port === "feed");
  const restrictor = components.find(({ id }) => id === feed?.start.component);
  return {
    dash: line && "dash" in line ? (line.dash ?? null) : null,
    openingMm: breather?.kind === "breather" ? (breather.opening_mm ?? null) : null,
    restrictorMm: restrictor?.kind === "restrictor" ? restrictor.bore_mm : null,
    sealMm: turbo?.kind === "turbo" ? (turbo.seal_height_mm ?? null) : null,
  };
}

export interface Suggestion {
  words: string;
  change: { opening_mm: number } | { dash: Dash };
}

/** What to try first where a drain is short: less gas where it is gas that pushes, else a size more. */
export function suggestionsFor(
  now: Now,
  fitted: { dash: Dash | null; openingMm: number | null },
  said: (mm: number) => string,
): Suggestion[] {
  const wider = BREATHERS.find((each) => each >= 1.5 * (fitted.openingMm ?? 9));
  const larger = SIZES.find((each) => each > (fitted.dash ?? 10));
  const gas: Suggestion[] =
    wider !== undefined && now.pushMm > 0
      ? [{ words: `Try a ${said(wider)} breather`, change: { opening_mm: wider } }]
      : [];
  const size: Suggestion[] =
    larger !== undefined ? [{ words: `Try size ${larger}`, change: { dash: larger } }] : [];
  return now.pushMm > GAS_COUNTS * now.neededMm ? [...gas, ...size] : [...size, ...gas];
}
