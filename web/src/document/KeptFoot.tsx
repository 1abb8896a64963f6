import type { ReactElement } from "react";
import type { RecordRow } from "../api/records";
import { Button } from "../parts/Button";
import { TakenBy } from "./TakenBy";

/** Under what was found: by whom and when, and to strike it out. */
export function KeptFoot({
  row,
  label,
  onStrike,
}: {
  row: RecordRow;
  /** What is struck out. */
  label: string;
  onStrike: (id: number) => void;
}): ReactElement {
  return (
    <div className="flex items-center justify-between">
      <TakenBy row={row} />
      <Button
        look="bare"
        className="px-1"
        aria-label={`Strike ${label}`}
        onClick={() => onStrike(row.id)}
      >
        ×
      </Button>
    </div>
  );
}
