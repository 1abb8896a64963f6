import type { ReactElement } from "react";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { KeptFoot } from "../../document/KeptFoot";
import { useKept } from "../../document/useRecords";

const ENGINE = { cold: "cold, standing", hot: "hot, just stopped", running: "running" } as const;

/** Where the oil stood on the stick, as it was found from time to time. */
export function Levels({ heightMm }: { heightMm: number }): ReactElement {
  const { rows, fault, keep, put, strike } = useKept("level");
  return (
    <section aria-labelledby="levels" className="border-t border-ink px-4 py-3">
      <h2 id="levels" className="font-figure text-[18px] font-semibold">
        Levels found
      </h2>
      {rows?.length === 0 && (
        <p className="py-1 text-[14px] text-ink-2">
          What the stick showed, before and after a session: oil that goes missing shows here first.
        </p>
      )}
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      {rows?.map((row, index) => (
        <div key={row.id} className="border-b border-hair pb-1">
          <EditFigure
            label="Above the lowest point"
            field="record.level_mm"
            value={row.record.level_mm}
            onType={(typed) =>
              keep({ ...row.record, level_mm: typed as unknown as number }, row.id)
            }
          />
          <Choice
            label="The engine"
            value={row.record.engine}
            choices={ENGINE}
            onChoose={(engine) => put({ ...row.record, engine }, row.id)}
          />
          <KeptFoot row={row} label={`level ${index + 1}`} onStrike={strike} />
        </div>
      ))}
      <Button
        className="mt-2"
        onClick={() =>
          put({ kind: "level", level_mm: Number(heightMm.toFixed(0)), engine: "cold", note: "" })
        }
      >
        Add a level
      </Button>
    </section>
  );
}
