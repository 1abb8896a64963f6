import type { ReactElement } from "react";
import { patternFile, type FlatPart, type Made, type Making } from "../../../api/making";
import { useBuildView } from "../../../document/BuildContext";
import { useEdits } from "../../../document/useEdits";
import { EditFigure } from "../../../parts/EditFigure";
import { useSettings } from "../../../parts/settings";
import { lengthAs } from "../../../parts/units";
import { withSeam } from "./made";

const asNumber = (typed: string, most: number): number => {
  const value = Number(typed.replace(",", "."));
  if (!(value >= 0 && value <= most)) throw new Error(`must be a figure from 0 to ${most}`);
  return value;
};

/** How the pan is made of sheet: which edges are bent, how it bends, and the files. */
export function MakeColumn({
  making,
  made,
  picked,
  fault,
  onMade,
}: {
  making: Making;
  made: Made;
  picked: FlatPart;
  /** Why what was asked cannot be laid flat. */
  fault: string | null;
  onMade: (made: Made) => void;
}): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const edits = useEdits();
  const weld = lengthAs(units, system, making.welded_mm);
  return (
    <div>
      <section aria-label="Files" className="px-4 py-3 text-[14px]">
        <h2 className="font-figure text-[18px] font-semibold">Cut it</h2>
        <p className="flex flex-wrap gap-x-4">
          <a className="underline" href={patternFile(build, made)} download>
            All as DXF
          </a>
          <a className="underline" href={patternFile(build, made, picked.key)} download>
            {picked.name} as DXF
          </a>
          <a className="underline" href={patternFile(build, made, "", "paper")} download>
            all on paper, full size
          </a>
          <a className="underline" href={patternFile(build, made, picked.key, "paper")} download>
            {picked.name} on paper
          </a>
        </p>
        <p className="pt-1 text-[13px] text-ink-2">
          Millimetres; layers CUT, DRILL, BEND, FOLD and MARK. Seen from inside the pan, the flange
          from the engine. Try a paper one first: measure its bar, glue the sheets along their
          marks. Welds that hold oil or the engine: a licensed welder, and a leak test.
        </p>
      </section>
      <section aria-label="Sheet" className="border-t border-ink px-4 py-2">
        <h2 className="font-figure text-[18px] font-semibold">The sheet</h2>
        <EditFigure
          label="Thickness of the pan's wall"
          field="pan.sheet_mm"
          value={build.document.pan.sheet_mm ?? null}
          note={
            build.document.pan.sheet_mm == null
              ? `${making.thickness_mm} mm is taken, a guess`
              : undefined
          }
          onType={(typed) => edits.type(["pan.sheet_mm"], typed)}
        />
        <EditFigure
          label="Radius of bends, inside"
          field="radius_mm"
          value={making.radius_mm}
          note={made.radiusMm === null ? "a guess, until it is typed" : undefined}
          onType={(typed) =>
            Promise.resolve().then(() => onMade({ ...made, radiusMm: asNumber(typed, 100) }))
          }
        />
        <EditFigure
          label="K-factor"
          field="k_factor"
          value={making.k_factor}
          note={
            made.kFactor === null
              ? "soft sheet's, from memory: bend a trial strip and measure"
              : undefined
          }
          onType={(typed) =>
            Promise.resolve().then(() => onMade({ ...made, kFactor: asNumber(typed, 1) }))
          }
        />
      </section>
      <section aria-label="Edges" className="border-t border-ink px-4 py-2">
        <h2 className="font-figure text-[18px] font-semibold">Edges: bent or welded</h2>
        <p className="text-[13px] text-ink-2">
          Welded in all {weld.figure} {weld.unit}; tick an edge to bend it of one piece.
        </p>
        {fault && (
          <p role="alert" className="py-1 text-[14px] text-bad">
            {fault}{" "}
            <button
              type="button"
              className="underline"
              onClick={() => onMade({ ...made, bent: [] })}
            >
              weld all
            </button>
          </p>
        )}
        <ul className="text-[14px]">
          {making.seams.map(({ pair: [one, other], length_mm: long, bend_deg: turn }) => {
            const key = `${one}-${other}`;
            const length = lengthAs(units, system, long);
            return (
              <li key={key} className="border-b border-hair">
                <label className="flex items-center justify-between gap-2 py-1">
                  <span>
                    {one} to {other}
                    <span className="ml-2 text-[13px] text-ink-2">
                      {length.figure} {length.unit}, {turn.toFixed(0)}°
                    </span>
                  </span>
                  <span className="flex items-center gap-2">
                    {made.bent.includes(key) ? "bent" : "welded"}
                    <input
                      type="checkbox"
                      aria-label={`Bend between ${one} and ${other}`}
                      checked={made.bent.includes(key)}
                      onChange={(event) => onMade(withSeam(made, key, event.target.checked))}
                    />
                  </span>
                </label>
              </li>
            );
          })}
        </ul>
      </section>
    </div>
  );
}
