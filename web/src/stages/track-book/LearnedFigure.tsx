import type { ReactElement } from "react";
import type { FigureTold } from "../../api/learning";
import { useSettings } from "../../parts/settings";
import { placesOf, shownFigure } from "./learnedWords";

const WIDE = 190;

/** Dot and bar: fitted; ring: what the forecast had. */
function Line({ told }: { told: FigureTold }): ReactElement {
  const { low, high, at, was } = placesOf(told);
  return (
    <svg
      viewBox={`0 0 ${WIDE} 20`}
      width={WIDE}
      height="20"
      aria-hidden="true"
      className="block max-w-full"
    >
      <line x1="0" x2={WIDE} y1="10" y2="10" className="stroke-hair" strokeWidth="2" />
      <line
        x1={low * WIDE}
        x2={high * WIDE}
        y1="10"
        y2="10"
        className="stroke-ink"
        strokeWidth="4"
        opacity={told.tells ? 1 : 0.4}
      />
      <circle cx={at * WIDE} cy="10" r="5.5" className="fill-ink" opacity={told.tells ? 1 : 0.4} />
      <circle
        cx={was * WIDE}
        cy="10"
        r="5"
        className="fill-none stroke-oil-deep"
        strokeWidth="2.5"
      />
    </svg>
  );
}

/** One figure of a fit: as fitted, as it was thought, and whether it is taken over. */
export function LearnedFigure({
  told,
  isTaken,
  onTaken,
}: {
  told: FigureTold;
  /** Null: there is nothing to choose. */
  isTaken: boolean | null;
  onTaken: (isTaken: boolean) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const { value, give, before, unit } = shownFigure(told, units, system);
  return (
    <tr className="border-b border-hair" data-figure={told.key}>
      <th scope="row" className="py-1.5 pr-3 text-left font-normal">
        {isTaken === null ? (
          told.words
        ) : (
          <label className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              checked={isTaken}
              onChange={(event) => onTaken(event.target.checked)}
              className="size-5 shrink-0 accent-ink"
            />
            {told.words}
          </label>
        )}
        {!told.tells && (
          <span className="block text-[13px] text-ink-2">
            these laps say no more than was guessed
          </span>
        )}
        {told.tells && !told.takes && (
          <span className="block text-[13px] text-ink-2">
            {told.at_end
              ? "at the end of what was looked at: the truth may be beyond"
              : "the sensor's own: no forecast rests on it"}
          </span>
        )}
      </th>
      <td className="py-1.5 pr-3 text-right font-figure text-[17px] font-semibold whitespace-nowrap">
        {value} ± {give} <span className="text-[13px] font-normal">{unit}</span>
      </td>
      <td className="hidden py-1.5 pr-3 sm:table-cell">
        <Line told={told} />
      </td>
      <td className="py-1.5 text-right font-figure text-[14px] whitespace-nowrap text-oil-deep">
        was {before} {unit}
      </td>
    </tr>
  );
}
