import type { ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { withComponent } from "../../document/circuit/circuit";
import { SPECS } from "../../document/circuit/specs";
import { RecordParts } from "../../document/Records";
import { useEdits } from "../../document/useEdits";
import { EditFigure } from "../../parts/EditFigure";

/** Where a mouth's place is kept: the first one's is the pan's own, the others have theirs. */
function placeOf(id: string, components: readonly { id?: string; kind: string }[]): string {
  const part = components.find((each) => each.id === id);
  const isOwn = part && "mouth_at" in part && part.mouth_at;
  return isOwn ? `circuit.components.${id}.mouth_at` : "pickup";
}

/** Every stage's size, its mouths' places and the tank's measures, edited one by one. */
export function StagesNumbers({ dry }: { dry: Dry }): ReactElement {
  const { build } = useBuildView();
  const edits = useEdits();
  const { components } = build.document.circuit;
  const tank = components.find((each) => each.id === dry.tank.id);
  return (
    <section aria-label="Stages and tank" className="border-t border-ink px-4 py-3">
      <h2 className="font-figure text-[18px] font-semibold">Stages and tank</h2>
      <p className="text-[13px] text-ink-2">
        Ahead of the rail's rear face, and to the left of the crank; minus is to the right.
      </p>
      {dry.stages.map((stage, at) => (
        <details key={stage.id} className="border-b border-hair" data-numbers={stage.id}>
          <summary className="py-1 text-[14px]">
            {at + 1} {stage.name}
          </summary>
          <EditFigure
            label="Sweeps, a turn of the pump"
            field={`circuit.components.${stage.id}.displacement_cm3`}
            value={stage.displacement_cm3}
            onType={(typed) =>
              edits.type([`circuit.components.${stage.id}.displacement_cm3`], typed)
            }
          />
          {stage.mouths.map((number) => {
            const mouth = dry.mouths[number];
            if (!mouth) return null;
            const place = placeOf(mouth.id, components);
            return (
              <div key={mouth.id}>
                <EditFigure
                  label={`${mouth.name}, ahead`}
                  field={`${place}.x_mm`}
                  value={mouth.x_mm}
                  onType={(typed) => edits.type([`${place}.x_mm`], typed)}
                />
                <EditFigure
                  label={`${mouth.name}, left`}
                  field={`${place}.y_mm`}
                  value={mouth.y_mm}
                  onType={(typed) => edits.type([`${place}.y_mm`], typed)}
                />
              </div>
            );
          })}
        </details>
      ))}
      {tank && (
        <details className="border-b border-hair" data-numbers={dry.tank.id}>
          <summary className="py-1 text-[14px]">{dry.tank.name}</summary>
          <RecordParts
            record={tank}
            path={`circuit.components.${tank.id}`}
            specs={SPECS.tank}
            parts={components}
            onType={edits.type}
            onPut={(next) =>
              edits.replace(withComponent(build.document, tank.id, next), `${tank.name} changed`)
            }
          />
          <EditFigure
            label="Oil in all"
            field="oil.volume_l"
            value={build.document.oil.volume_l}
            onType={(typed) => edits.type(["oil.volume_l"], typed)}
          />
        </details>
      )}
      {edits.fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {edits.fault}
        </p>
      )}
    </section>
  );
}
