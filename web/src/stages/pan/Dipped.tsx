import type { ReactElement } from "react";
import type { PanFigures } from "../../api/queries";
import type { RecordOf } from "../../api/records";
import { TakenBy } from "../../document/TakenBy";
import type { Keeping } from "../../document/useRecords";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";

type Poured = RecordOf<"poured">;

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
  kept,
  pan,
  litres,
  heightMm,
}: {
  kept: Keeping<"poured">;
  pan: PanFigures;
  litres: number;
  heightMm: number;
}): ReactElement {
  const row = kept.rows?.at(-1);
  const dipped: Poured = row?.record ?? { kind: "poured", engine: "level", points: [] };
  const { points } = dipped;
  const put = (next: Poured): void => kept.put(next, row?.id);
  const typed = (index: number, key: "poured_l" | "level_mm", text: string): Promise<unknown> => {
    const next = points.map((point, at) => (at === index ? { ...point, [key]: text } : point));
    return kept.keep({ ...dipped, points: next }, row?.id);
  };
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
            put({ ...dipped, engine: event.target.value === "in_car" ? "in_car" : "level" })
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
              field={`record.points.${index}.poured_l`}
              value={point.poured_l}
              onType={(text) => typed(index, "poured_l", text)}
            />
            <EditFigure
              narrow
              label="Dipped"
              field={`record.points.${index}.level_mm`}
              value={point.level_mm}
              onType={(text) => typed(index, "level_mm", text)}
            />
          </div>
          <Button
            look="bare"
            className="px-1"
            aria-label={`Strike dip ${index + 1}`}
            onClick={() => put({ ...dipped, points: points.filter((_, at) => at !== index) })}
          >
            ×
          </Button>
        </div>
      ))}
      <Button
        className="mt-2"
        onClick={() =>
          put({
            ...dipped,
            points: [
              ...points,
              {
                poured_l: Math.max(0.1, Number(litres.toFixed(1))),
                level_mm: Number(heightMm.toFixed(0)),
              },
            ],
          })
        }
      >
        Add a dip at this fill
      </Button>
      {row && <TakenBy row={row} />}
      {kept.fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {kept.fault}
        </p>
      )}
      <Mismatch pan={pan} />
    </section>
  );
}
