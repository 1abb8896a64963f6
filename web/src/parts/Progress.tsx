import type { ReactElement } from "react";
import { Button } from "./Button";

/** How far something is: ink on paper, since green and amber mean something else here. */
export function Bar({
  share,
  words,
  className,
}: {
  share: number;
  words: string;
  className: string;
}): ReactElement {
  return (
    <progress
      max={1}
      value={share}
      aria-label={words}
      className={`h-2 appearance-none border border-ink bg-panel [&::-moz-progress-bar]:bg-ink [&::-webkit-progress-bar]:bg-panel [&::-webkit-progress-value]:bg-ink ${className}`}
    />
  );
}

/** Long work under way: what it does, how far it is, and a way out. */
export function Progress({
  doing,
  share,
  onCancel,
}: {
  doing: string;
  share: number;
  onCancel: () => void;
}): ReactElement {
  const percent = Math.round(100 * share);
  return (
    <div className="flex max-w-xl items-center gap-3 py-2">
      <div className="min-w-0 flex-1">
        <p role="status" className="text-[14px]">
          {doing} <span className="font-figure font-semibold">{percent} %</span>
        </p>
        <Bar share={share} words={doing} className="mt-1 w-full" />
      </div>
      <Button onClick={onCancel}>Cancel</Button>
    </div>
  );
}
