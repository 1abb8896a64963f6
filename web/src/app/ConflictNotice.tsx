import type { ReactElement } from "react";
import type { Conflict } from "../api/queries";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

/** Two editors met: both edits are kept, and the user says which is shown. */
export function ConflictNotice({
  conflict,
  onMine,
  onTop,
  onTheirs,
}: {
  conflict: Conflict;
  onMine: () => void;
  onTop: (() => void) | null;
  onTheirs: () => void;
}): ReactElement {
  return (
    <Notice kind="caution" title="Changed in two places; both are kept">
      <p>{conflict.words} Shown now is theirs.</p>
      <div className="mt-2 flex flex-wrap gap-2">
        {onTop && (
          <Button look="main" onClick={onTop}>
            Put mine on top of theirs
          </Button>
        )}
        <Button onClick={onMine}>Show mine instead</Button>
        <Button onClick={onTheirs}>Stay with theirs</Button>
      </div>
    </Notice>
  );
}
