import type { ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { runName } from "./besides";
import type { Beside } from "./useBeside";

/** Which finished run stands beside the one shown. */
export function BesideChoice({
  beside,
  wantedId,
  onWanted,
}: {
  beside: Beside;
  wantedId: number | null;
  onWanted: (id: number | null) => void;
}): ReactElement | null {
  if (beside.offered.length === 0) return null;
  const isComing = wantedId !== null && !beside.pictured && !beside.error;
  return (
    <label className="flex min-w-0 items-center gap-1.5 max-sm:hidden">
      <span className="shrink-0 text-ink-2">beside it</span>
      <select
        value={beside.offered.some(({ id }) => id === wantedId) ? (wantedId ?? "") : ""}
        onChange={(event) => onWanted(event.target.value ? Number(event.target.value) : null)}
        className="max-w-[260px] min-w-0 truncate border-b border-dotted border-ink bg-transparent font-figure"
      >
        <option value="">nothing</option>
        {beside.offered.map((run) => (
          <option key={run.id} value={run.id}>
            {runName(run)}
            {run.summary ? `: dry ${run.summary.dry_s.toFixed(1)} s` : ""}
          </option>
        ))}
      </select>
      {isComing && <span role="status">is being fetched…</span>}
      {beside.error && wantedId !== null && (
        <span role="alert" className="text-bad">
          {wordsOf(beside.error)}
        </span>
      )}
    </label>
  );
}
