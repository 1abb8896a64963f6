import type { ReactElement } from "react";
import type { RecordRow } from "../api/records";

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

/** Whose hand wrote a record, when, and on which state. */
export function TakenBy({ row }: { row: RecordRow }): ReactElement {
  return (
    <p className="text-[12px] text-ink-2">
      {row.taken_by}, {DAY.format(new Date(row.taken_at))}, on state {row.state}
      {row.written_anew && ", written anew"}
    </p>
  );
}
