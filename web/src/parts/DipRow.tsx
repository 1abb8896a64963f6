import type { ReactElement } from "react";
import { Mark } from "./Mark";

/** One stretch of trouble in a list: how long, where, and by how much; it leads to its moment. */
export function DipRow({
  on,
  seconds,
  where,
  said,
  onClick,
}: {
  /** The moment shown lies in it. */
  on: boolean;
  seconds: number;
  where: string;
  said: string;
  onClick: () => void;
}): ReactElement {
  return (
    <li className="border-t border-hair">
      <button
        type="button"
        aria-current={on || undefined}
        onClick={onClick}
        className={`flex h-[37px] w-full items-center gap-2 px-4 text-left font-figure focus-visible:outline-offset-[-3px] ${
          on ? "bg-ink text-paper" : ""
        }`}
      >
        <Mark state="bad" onInk={on} />
        <span className="w-[52px] shrink-0 text-[18px] font-semibold">
          {seconds.toFixed(1)}
          <span className="text-[13px] font-medium"> s</span>
        </span>
        <span className="min-w-0 flex-1 truncate text-[15px]">{where}</span>
        <span className="shrink-0 text-[15px]">{said}</span>
      </button>
    </li>
  );
}

/** Where a stretch is, as one says it. */
export const whereOf = ({ place, hand }: { place: string; hand: string | null }): string =>
  hand ? `${place}, ${hand}` : place;
