import type { Drain, DrainsStage } from "../../api/drains";
import type { Table } from "../../parts/csv";

/** A drain over the lap as figures: one row a moment. */
export function drainTable(stage: DrainsStage, drain: Drain): Table {
  const { samples } = drain;
  return {
    title: `${drain.name}, moment by moment`,
    headings: [
      "time [s]",
      "head there is [mm]",
      "head needed [mm]",
      "of it against gas [mm]",
      "entry under oil [mm]",
      "room under the seals [mm]",
      "oil in the housing [ml]",
      "feed [L/min]",
      "crankcase [mbar]",
    ],
    rows: stage.time_s.map((time, at) => [
      time,
      samples.there_mm[at] ?? 0,
      samples.needed_mm[at] ?? 0,
      samples.push_mm[at] ?? 0,
      samples.under_mm[at] ?? 0,
      samples.room_mm[at] ?? 0,
      samples.held_ml[at] ?? 0,
      samples.flow_l_min[at] ?? 0,
      stage.breathing.case_mbar[at] ?? 0,
    ]),
  };
}
