import { useRef, type ReactElement } from "react";
import type { PanFigures } from "../../api/queries";
import { ReadOut } from "../../parts/ReadOut";
import { LevelCurve } from "../../plots/LevelCurve";

/** How the engine stands while its pan is filled. */
export type Attitude = "level" | "in_car";

/** What the pan holds at any level, dragged or by keys. */
export function FillCurve({
  pan,
  attitude,
  litres,
  heightMm,
  onAttitude,
  onLitres,
}: {
  pan: PanFigures;
  attitude: Attitude;
  litres: number;
  heightMm: number;
  onAttitude: (attitude: Attitude) => void;
  onLitres: (litres: number) => void;
}): ReactElement {
  const drawn = useRef<HTMLDivElement>(null);
  const fill = attitude === "level" ? pan.level : pan.in_car;
  const table = () => ({
    title: `Litres to level, ${attitude === "level" ? "rail level" : "as in the car"}`,
    headings: ["in the pan [L]", "above the lowest point [mm]"],
    rows: fill.curve_l_mm,
  });
  return (
    <section aria-labelledby="fill" className="px-4 pt-2">
      <div className="flex items-center justify-between gap-2">
        <h2 id="fill" className="font-figure text-[18px] font-semibold">
          Litres to level
        </h2>
        <div role="group" aria-label="How the engine stands" className="flex gap-2 font-figure">
          {(
            [
              ["level", "rail level"],
              ["in_car", "as in the car"],
            ] as const
          ).map(([value, label]) => (
            <button
              key={value}
              type="button"
              aria-pressed={attitude === value}
              onClick={() => onAttitude(value)}
              className={`border-b-2 text-[14px] ${attitude === value ? "border-ink font-semibold" : "border-transparent text-ink-2"}`}
            >
              {label}
            </button>
          ))}
        </div>
        <ReadOut name="Litres to level" table={table} drawing={drawn} />
      </div>
      <div ref={drawn} className="flex justify-center">
        <LevelCurve
          fill={fill}
          dips={pan.dips}
          marks={attitude === "in_car" ? pan.marks : []}
          litres={litres}
          heightMm={heightMm}
          width={300}
          height={210}
          onLitres={onLitres}
        />
      </div>
      <p className="pb-2 text-[13px] text-ink-2">× poured and dipped · line from the drawing</p>
    </section>
  );
}
