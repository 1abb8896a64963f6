import { useState, type ReactElement } from "react";
import { wordsOf } from "../../../api/client";
import type { Making } from "../../../api/making";
import { useSettings } from "../../../parts/settings";
import { lengthAs } from "../../../parts/units";
import { useSheet, type SheetFigures } from "./useSheet";

/** Every edge that two panels have in common: bent of one piece, or welded. */
export function Edges({ making }: { making: Making }): ReactElement {
  const { system, units } = useSettings();
  const set = useSheet();
  const [refused, setRefused] = useState<string | null>(null);
  const weld = lengthAs(units, system, making.welded_mm);
  const change = (figures: SheetFigures): void => {
    setRefused(null);
    set(figures).catch((error: unknown) => setRefused(wordsOf(error)));
  };
  const fault = making.fault ?? refused;
  return (
    <section aria-label="Edges" className="border-t border-ink px-4 py-2">
      <h2 className="font-figure text-[18px] font-semibold">Edges: bent or welded</h2>
      <p className="text-[13px] text-ink-2">
        Welded in all {weld.figure} {weld.unit}; tick an edge to bend it of one piece.
      </p>
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}{" "}
          <button type="button" className="underline" onClick={() => change({ weld_all: true })}>
            weld all
          </button>
        </p>
      )}
      <ul className="text-[14px]">
        {making.seams.map(
          ({ pair: [one, other], length_mm: long, bend_deg: turn, bent, at_mm }) => {
            const length = lengthAs(units, system, long);
            return (
              <li key={`${one}-${other}`} className="border-b border-hair">
                <label className="flex items-center justify-between gap-2 py-1">
                  <span>
                    {one} to {other}
                    <span className="ml-2 text-[13px] text-ink-2">
                      {length.figure} {length.unit}, {turn.toFixed(0)}°
                    </span>
                  </span>
                  <span className="flex items-center gap-2">
                    {bent ? "bent" : "welded"}
                    <input
                      type="checkbox"
                      aria-label={`Bend between ${one} and ${other}`}
                      checked={bent}
                      onChange={(event) => change({ edge_mm: at_mm, bent: event.target.checked })}
                    />
                  </span>
                </label>
              </li>
            );
          },
        )}
      </ul>
    </section>
  );
}
