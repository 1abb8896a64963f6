import type { ReactElement } from "react";
import type { BuildDocument, PanFigures } from "../../api/queries";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import type { Replace, Type } from "../../document/ZoneNumbers";

type DippedPart = NonNullable<BuildDocument["pan"]["dipped"]>;

function Mismatch({ pan }: { pan: PanFigures }): ReactElement | null {
  const { system, units } = useSettings();
  if (pan.rms_mm === null) return null;
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, Math.abs(mm));
    return `${figure} ${unit}`;
  };
  const best = pan.explanations[0];
  const agree = pan.rms_mm < 2;
  return (
    <div className="flex gap-2 py-2 text-[14px]">
      <Mark state={agree ? "good" : "caution"} />
      <div>
        <p>
          Drawing and dips differ by {pan.rms_mm.toFixed(1)} mm in the mean
          {agree ? ": they agree." : "."}
        </p>
        {best && (
          <p>
            The {best.what} {best.change_mm > 0 ? "more" : "less"} by {length(best.change_mm)} would
            explain it, to {best.rms_mm.toFixed(1)} mm. Measure that again.
          </p>
        )}
        {pan.explanations.length > 1 && (
          <p className="text-ink-2">
            Or:{" "}
            {pan.explanations
              .slice(1)
              .map(
                (each) => `${each.what} ${each.change_mm > 0 ? "+" : "−"}${length(each.change_mm)}`,
              )
              .join("; ")}
            .
          </p>
        )}
        {!best && !agree && <p>No single dimension would explain it.</p>}
      </div>
    </div>
  );
}

/** Poured a litre at a time and dipped: the points, and what the drawing makes of them. */
export function Dipped({
  document,
  pan,
  litres,
  heightMm,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  pan: PanFigures;
  litres: number;
  heightMm: number;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const dipped: DippedPart = document.pan.dipped ?? { engine: "level", points: [] };
  const points = dipped.points;
  const put = (next: DippedPart, change: string): void =>
    onReplace({ ...document, pan: { ...document.pan, dipped: next } }, change);
  return (
    <section aria-labelledby="dipped" className="border-t border-ink px-4 py-3">
      <div className="flex items-center justify-between gap-2">
        <h2 id="dipped" className="font-figure text-[18px] font-semibold">
          Poured and dipped
        </h2>
        <select
          aria-label="How the engine stood when it was dipped"
          value={dipped.engine}
          onChange={(event) =>
            put(
              { ...dipped, engine: event.target.value === "in_car" ? "in_car" : "level" },
              "how it was dipped",
            )
          }
          className="border-b border-dotted border-ink bg-panel font-figure text-[14px]"
        >
          <option value="level">rail level</option>
          <option value="in_car">as in the car</option>
        </select>
      </div>
      {points.length === 0 && (
        <p className="py-1 text-[14px] text-ink-2">
          Pour oil in a litre at a time and dip it. Where drawing and dipstick part, a dimension is
          wrong.
        </p>
      )}
      {points.map((point, index) => (
        <div key={index} className="flex items-end gap-2">
          <div className="grid min-w-0 flex-1 grid-cols-2 gap-3">
            <EditFigure
              narrow
              label="Poured"
              field={`pan.dipped.points.${index}.poured_l`}
              value={point.poured_l}
              onType={(typed) => onType([`pan.dipped.points.${index}.poured_l`], typed)}
            />
            <EditFigure
              narrow
              label="Dipped"
              field={`pan.dipped.points.${index}.level_mm`}
              value={point.level_mm}
              onType={(typed) => onType([`pan.dipped.points.${index}.level_mm`], typed)}
            />
          </div>
          <Button
            look="bare"
            className="px-1"
            aria-label={`Strike dip ${index + 1}`}
            onClick={() =>
              put({ ...dipped, points: points.filter((_, at) => at !== index) }, "dip struck out")
            }
          >
            ×
          </Button>
        </div>
      ))}
      <Button
        className="mt-2"
        onClick={() =>
          put(
            {
              ...dipped,
              points: [
                ...points,
                {
                  poured_l: Math.max(0.1, Number(litres.toFixed(1))),
                  level_mm: Number(heightMm.toFixed(0)),
                },
              ],
            },
            "dip added",
          )
        }
      >
        Add a dip at this fill
      </Button>
      <Mismatch pan={pan} />
    </section>
  );
}
