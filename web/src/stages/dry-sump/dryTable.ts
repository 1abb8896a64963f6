import type { Dry, DryOverLap } from "../../api/dry";
import type { Table } from "../../parts/csv";

/** A dry sump over the lap as figures: one row a point. */
export function dryTable(dry: Dry, { model, traces }: DryOverLap): Table {
  return {
    title: `Dry sump over the lap, ${model}`,
    headings: [
      "time [s]",
      "in the pan [L]",
      "in the tank [L]",
      "over the outlet [mm]",
      ...dry.stages.map(({ name }) => `${name}, share of oil`),
    ],
    rows: traces.time_s.map((time, at) => [
      time,
      traces.pan_l[at] ?? 0,
      traces.tank_l[at] ?? 0,
      traces.cover_mm[at] ?? 0,
      ...traces.shares.map((each) => each[at] ?? 0),
    ]),
  };
}
