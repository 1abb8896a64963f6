import type { ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { KeptFoot } from "../../document/KeptFoot";
import { useKept } from "../../document/useRecords";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import { lengthAs, volumeAs, type System, type Units } from "../../parts/units";

const ENGINE = { cold: "cold, standing", hot: "just stopped", running: "running" } as const;

/** The way to the tank's level, step by step, with its marks. */
export function stepsOf({ marks }: Dry, oilL: number, units: Units, system: System): string[] {
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const { figure, unit } = volumeAs(units, system, oilL);
  const down = volumeAs(units, system, marks.comes_down_l);
  const low =
    marks.low_mm === null
      ? "A lap tells the low mark."
      : `Under ${length(marks.low_mm)} its outlet comes too near the surface in the lap's hardest loads.`;
  return [
    `Car level, engine cold, can empty: pour in ${figure} ${unit} in all.`,
    `Start, let it idle until the oil is warm, and look while it runs: about ${length(marks.expected_mm)} over the tank's floor. ${low} Over ${length(marks.full_mm)} foam has no room.`,
    `After a start it falls by about ${length(marks.start_falls_mm)} until the first oil is back, some ${marks.start_s.toFixed(0)} s at idle: no level to fill up by.`,
    `Three laps, then look within a minute, engine idling: stopped, ${down.figure} ${down.unit} from the lines and up top lie in the pan, oil leaks back through the pump, and the tank tells nothing.`,
    "Empty the can and write down what it took. More than a cup in a session: a quarter of a litre less, and again.",
    "When two sessions agree, mark the stick or the sight tube there, “engine running”.",
  ];
}

/** Finding the level: the way to it, and what was found, kept as records. */
export function FindLevel({ dry, oilL }: { dry: Dry; oilL: number }): ReactElement {
  const { system, units } = useSettings();
  const { rows, fault, keep, put, strike } = useKept("tank_level");
  return (
    <section aria-label="Finding the level" className="border-t border-ink px-4 py-3">
      <h2 className="font-figure text-[18px] font-semibold">Finding the level</h2>
      <ol className="list-decimal pl-5 text-[14px]">
        {stepsOf(dry, oilL, units, system).map((step) => (
          <li key={step} className="py-0.5">
            {step}
          </li>
        ))}
      </ol>
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      {rows?.map((row, index) => {
        const held = volumeAs(units, system, (row.record.level_mm / 10) * dry.marks.litres_a_cm);
        return (
          <div key={row.id} className="border-b border-hair pb-1" data-tank-level={row.id}>
            <EditFigure
              label="Over the tank's floor"
              field="record.level_mm"
              value={row.record.level_mm}
              note={`${held.figure} ${held.unit} in the tank`}
              onType={(typed) =>
                keep({ ...row.record, level_mm: typed as unknown as number }, row.id)
              }
            />
            <EditFigure
              label="The can took"
              field="record.can_l"
              value={row.record.can_l ?? null}
              onType={(typed) => keep({ ...row.record, can_l: typed as unknown as number }, row.id)}
            />
            <Choice
              label="The engine"
              value={row.record.engine}
              choices={ENGINE}
              onChoose={(engine) => put({ ...row.record, engine }, row.id)}
            />
            <KeptFoot row={row} label={`level ${index + 1}`} onStrike={strike} />
          </div>
        );
      })}
      <Button
        className="mt-2"
        onClick={() =>
          put({
            kind: "tank_level",
            level_mm: Math.round(dry.marks.expected_mm),
            engine: "running",
            after_min: null,
            can_l: null,
            note: "",
          })
        }
      >
        Add a level found
      </Button>
    </section>
  );
}
