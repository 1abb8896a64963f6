import type { Table } from "../../parts/csv";
import type { FitNow } from "./standing";
import { STATES } from "./words";

/** All places as figures: one row a place, in the order of their numbers. */
export function fitTable({ rounds, places }: FitNow): Table {
  const inOrder = [...places].sort((one, other) => one.number - other.number);
  return {
    title: "Test fit",
    headings: [
      "number",
      "place",
      "wanted [mm]",
      "forecast [mm]",
      ...rounds.map(({ number }) => `round ${number} [mm]`),
      "stands",
      "what was done",
      "accepted, why",
    ],
    rows: inOrder.map((place) => [
      place.number,
      place.name,
      place.wanted_mm,
      place.forecast_mm ?? "",
      ...rounds.map(({ number }) => {
        const found = place.found.find(({ round }) => round === number);
        return found ? (found.touches ? "touches" : (found.gap_mm ?? "looked at")) : "";
      }),
      STATES[place.state],
      place.found.at(-1)?.done ?? "",
      place.accepted,
    ]),
  };
}
