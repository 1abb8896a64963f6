import type { ReactElement } from "react";
import { wordsOf } from "../api/client";
import type { Conflict } from "../api/queries";
import { useBuildView } from "../document/BuildContext";
import { Notice } from "../parts/Notice";
import { ConflictNotice } from "./ConflictNotice";

/** What became of an edit that could not simply be saved. */
export function EditNotices({
  conflict,
  onSettled,
}: {
  conflict: Conflict | null;
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
            conflict.edit.kind === "figures"
              ? () => {
                  onSettled();
                  edit.mutate(conflict.edit);
                }
              : null
          }
        />
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
