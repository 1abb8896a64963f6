import type { ReactElement } from "react";
import { wordsOf } from "../api/client";
import type { Conflict } from "../api/queries";
import { useBuildView } from "../document/BuildContext";
import { Notice } from "../parts/Notice";
import { ConflictNotice } from "./ConflictNotice";

/** What became of an edit that met others. */
export function EditNotices({
  conflict,
  joined,
  onSettled,
}: {
  conflict: Conflict | null;
  /** What others had changed when the last edit was laid on top, in words. */
  joined: string | null;
  onSettled: () => void;
}): ReactElement | null {
  const { edit } = useBuildView();
  if (conflict)
    return (
      <div className="p-3">
        <ConflictNotice
          conflict={conflict}
          onTheirs={onSettled}
          onMine={() => {
            onSettled();
            edit.mutate({ kind: "show", state: conflict.keptState });
          }}
          onTop={
            conflict.edit.kind === "act"
              ? () => {
                  onSettled();
                  edit.mutate(conflict.edit);
                }
              : null
          }
        />
      </div>
    );
  if (joined !== null)
    return (
      <div className="p-3">
        <Notice kind="good" title="Saved on top of another's change">
          {joined}{" "}
          <button type="button" className="underline" onClick={onSettled}>
            Close
          </button>
        </Notice>
      </div>
    );
  if (!edit.error) return null;
  return (
    <div className="p-3">
      <Notice kind="bad" title="Not saved">
        {wordsOf(edit.error)}{" "}
        <button type="button" className="underline" onClick={() => edit.reset()}>
          Close
        </button>
      </Notice>
    </div>
  );
}
