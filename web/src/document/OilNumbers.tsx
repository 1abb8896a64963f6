import type { ReactElement, ReactNode } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { useSettings } from "../parts/settings";
import { volumeAs } from "../parts/units";
import { isToldApart, ofKind, withComponent, type Kind } from "./circuit/circuit";
import { SPECS } from "./circuit/specs";
import type { Replace, Type } from "./ZoneNumbers";

type Oil = BuildDocument["oil"];
type Props = { document: BuildDocument; onType: Type; onReplace: Replace };

/** Kinds of component that are asked what they hold. */
const HOLDS = (kind: Kind): boolean => SPECS[kind].some(({ key }) => key === "holds_l");

/** Oil away from the pan: in all, or component by component. */
function Away({ document, onType, onReplace }: Props): ReactElement {
  const { system, units } = useSettings();
  const { oil, circuit } = document;
  const total = volumeAs(units, system, oil.away_l);
  const rest = ofKind(circuit, "crankcase")[0];
  if (!isToldApart(document))
    return (
      <>
        <EditFigure
          label="Away from the pan"
          field="oil.away_l"
          value={oil.away_l}
          note="running: heads, galleries, cooler, filter, lines"
          onType={(typed) => onType(["oil.away_l"], typed)}
        />
        {rest && (
          <Button
            className="mt-2"
            onClick={() =>
              onReplace(
                withComponent(document, rest.id, { holds_l: oil.away_l }),
                "oil away from the pan",
              )
            }
          >
            Say it place by place
          </Button>
        )}
      </>
    );
  const holding = circuit.components.filter(
    ({ kind, holds_l: held }) => held != null || HOLDS(kind),
  );
  const places = circuit.components.filter(({ holds_l: held }) => held != null).length;
  return (
    <details className="pt-1">
      <summary className="text-[14px]">
        Away from the pan: {total.figure} {total.unit} in {places} places
      </summary>
      {holding.map((part) => (
        <EditFigure
          key={part.id}
          label={part.name}
          field={`circuit.components.${part.id}.holds_l`}
          value={part.holds_l ?? null}
          onType={(typed) => onType([`circuit.components.${part.id}.holds_l`], typed)}
          onClear={() =>
            onReplace(
              withComponent(document, part.id, { holds_l: null }),
              `${part.name}: oil not known`,
            )
          }
        />
      ))}
      <p className="py-1 text-[13px] text-ink-2">
        Lines under pressure whose bore and length are known count by themselves.
      </p>
    </details>
  );
}

/** The oil: grade, how much, at the mark and over it, and what is held outside the pan. */
export function OilNumbers({
  document,
  onType,
  onReplace,
  children,
}: Props & { children?: ReactNode }): ReactElement {
  const { system, units, grades } = useSettings();
  const { oil } = document;
  const put = (change: Partial<Oil>, words: string): void =>
    onReplace({ ...document, oil: { ...oil, ...change } }, words);
  const over = oil.mark_l != null ? oil.volume_l - oil.mark_l : null;
  const words = (litres: number): string => {
    const { figure, unit } = volumeAs(units, system, litres);
    return `${figure} ${unit}`;
  };
  return (
    <FigureGroup title="Oil">
      <Choice
        label="Grade"
        value={oil.grade}
        choices={Object.fromEntries(grades.map((grade) => [grade, grade]))}
        onChoose={(grade) => put({ grade }, `oil ${grade}`)}
      />
      <EditFigure
        label="In the engine, as poured"
        field="oil.volume_l"
        value={oil.volume_l}
        note={
          over === null || Math.abs(over) < 0.005
            ? undefined
            : `${words(Math.abs(over))} ${over > 0 ? "over" : "under"} the mark`
        }
        onType={(typed) => onType(["oil.volume_l"], typed)}
      />
      <EditFigure
        label="At the mark"
        field="oil.mark_l"
        value={oil.mark_l ?? null}
        onType={(typed) => onType(["oil.mark_l"], typed)}
        onClear={() => put({ mark_l: null }, "oil at the mark not known")}
      />
      <EditFigure
        label="Temperature in the pan"
        field="oil.temperature_c"
        value={oil.temperature_c}
        onType={(typed) => onType(["oil.temperature_c"], typed)}
      />
      <Away document={document} onType={onType} onReplace={onReplace} />
      {children}
    </FigureGroup>
  );
}
