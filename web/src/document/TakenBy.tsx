import { dayWords } from "../parts/days";
import type { ReactElement } from "react";
import type { RecordRow } from "../api/records";

/** Whose hand wrote a record, when, and on which state. */
export function TakenBy({ row }: { row: RecordRow }): ReactElement {
  return (
    <p className="text-[12px] text-ink-2">
      {row.taken_by}, {dayWords(row.taken_at, { short: true, year: true })}, on state {row.state}
      {row.written_anew && ", written anew"}
    </p>
  );
}
