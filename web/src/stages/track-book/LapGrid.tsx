import type { ReactElement } from "react";
import type { Judged } from "../../api/judged";
import { InUnits } from "../../parts/InUnits";
import { DipMark } from "./DipMark";
import { isOf, keyOf, placeMark } from "./judgedWords";

export interface DipAt {
  lap: number;
  dip: number;
}

/** Lap by lap: which dips came, which were missed. */
export function LapGrid({
  judged,
  picked,
  onPick,
}: {
  judged: Judged;
  picked: DipAt | null;
  onPick: (at: DipAt) => void;
}): ReactElement {
  return (
    <div className="overflow-x-auto" tabIndex={0} aria-label="Lap by lap">
      <table className="text-[14px]">
        <thead>
          <tr className="text-[13px] text-ink-2">
            <th scope="col" className="py-1 pr-3 text-left font-normal">
              lap
            </th>
            {judged.places.map((place) => (
              <th key={keyOf(place)} scope="col" className="min-w-10 px-1 font-normal">
                {placeMark(place)}
              </th>
            ))}
            <th scope="col" className="pl-3 text-right font-normal">
              lowest
            </th>
          </tr>
        </thead>
        <tbody>
          {judged.laps.map((lap, number) => (
            <tr key={number} className="border-t border-hair">
              <th scope="row" className="pr-3 text-left font-normal whitespace-nowrap">
                {lap.name}
              </th>
              {judged.places.map((place) => (
                <td key={keyOf(place)} className="text-center whitespace-nowrap">
                  {lap.dips.map((dip, at) => {
                    if (!isOf(dip, place)) return null;
                    const isPicked = picked?.lap === number && picked.dip === at;
                    return (
                      <button
                        key={at}
                        type="button"
                        aria-label={`${lap.name}, ${place.name}, ${dip.start_s.toFixed(1)} s: ${dip.word.replace("_", " ")}`}
                        aria-pressed={isPicked}
                        onClick={() => onPick({ lap: number, dip: at })}
                        className={`min-h-8 min-w-7 ${isPicked ? "bg-panel outline outline-ink" : ""}`}
                      >
                        <svg width="24" height="24" viewBox="-12 -12 24 24" className="inline">
                          <DipMark word={dip.word} size={0.9} />
                        </svg>
                      </button>
                    );
                  })}
                </td>
              ))}
              <td className="pl-3 text-right font-figure whitespace-nowrap">
                <InUnits words={`${lap.lowest_bar.toFixed(1)} bar`} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
