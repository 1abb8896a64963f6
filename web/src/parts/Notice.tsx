import type { ReactElement, ReactNode } from "react";
import { Mark } from "./Mark";

/** A boxed note: trouble in brick with its wash, caution in ink. */
export function Notice({
  kind,
  title,
  children,
}: {
  kind: "bad" | "caution" | "good";
  title?: string;
  children: ReactNode;
}): ReactElement {
  const look = {
    bad: "border-bad bg-bad-wash",
    caution: "border-ink bg-panel",
    good: "border-good bg-good-wash",
  }[kind];
  return (
    <div role={kind === "bad" ? "alert" : "note"} className={`flex gap-2 border p-3 ${look}`}>
      <Mark state={kind} />
      <div className="min-w-0 text-[14px] [overflow-wrap:anywhere]">
        {title && <p className="font-semibold">{title}</p>}
        {children}
      </div>
    </div>
  );
}

/** A query that has not answered or has failed; null when there is something to show. */
export function Waiting({
  error,
  what,
  onRetry,
}: {
  error: string | null;
  what: string;
  onRetry: () => void;
}): ReactElement {
  if (error === null)
    return (
      <p role="status" className="p-6 text-ink-2">
        Reading {what}…
      </p>
    );
  return (
    <div className="max-w-xl p-6">
      <Notice kind="bad" title={`Could not read ${what}`}>
        <p>{error}</p>
        <button type="button" className="mt-1 underline" onClick={onRetry}>
          Try again
        </button>
      </Notice>
    </div>
  );
}
