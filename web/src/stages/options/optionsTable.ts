import type { Options } from "../../api/options";
import type { Table } from "../../parts/csv";

const STATES: Record<string, string> = {
  holds: "holds",
  may_hold: "may hold",
  does_not: "does not hold",
  first_look: "first look",
  failed: "could not be run",
  waiting: "not run",
};

/** Every remedy with its figures, to read or to save. */
export const optionsTable = (options: Options): Table => ({
  title: "Remedies",
  headings: [
    "Letter",
    "Remedy",
    "Verdict",
    "By",
    "Dry [s/lap]",
    "Estimate",
    "Without pressure [s]",
    "Lowest [bar]",
    "Cost",
    "Hours",
    "Days to wait",
    "Weight [kg]",
    "Ground [mm]",
    "Crank [mm]",
    "In words",
    "Why not",
  ],
  rows: options.rows.map((row) => [
    row.letter,
    row.title,
    row.applies ? (STATES[row.standing.state] ?? "") : "does not apply",
    row.standing.rung_words,
    row.standing.dry_s ?? "",
    row.standing.is_estimate ? "yes" : "",
    row.standing.under_s ?? "",
    row.standing.lowest_bar ?? "",
    row.needs?.cost ?? "",
    row.needs?.hours ?? "",
    row.needs?.lead_days ?? "",
    row.needs?.weight_kg ?? "",
    row.ground_mm ?? "",
    row.crank_mm ?? "",
    row.standing.words,
    row.reason || row.worse,
  ]),
});
