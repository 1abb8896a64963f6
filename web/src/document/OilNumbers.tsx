import type { ReactElement, ReactNode } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { useSettings } from "../parts/settings";
import { volumeAs } from "../parts/units";
import { freeName, Records, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";

type Oil = BuildDocument["oil"];

const HELD: readonly Spec[] = [
  { kind: "text", key: "name", label: "Where" },
  { kind: "figure", key: "volume_l", label: "Holds, running hot" },
];
const USUAL = ["head and cam boxes", "galleries", "filter", "second filter", "cooler", "lines"];

/** The oil: grade, how much, at the mark and over it, and what is held outside the pan. */
export function OilNumbers({
  document,
  onType,
  onReplace,
  children,
}: {
  document: BuildDocument;
  onType: Type;
  onReplace: Replace;
  children?: ReactNode;
}): ReactElement {
  const { system, units, grades } = useSettings();
  const { oil } = document;
  const put = (change: Partial<Oil>, words: string): void =>
    onReplace({ ...document, oil: { ...oil, ...change } }, words);
  const over = oil.mark_l != null ? oil.volume_l - oil.mark_l : null;
  const words = (litres: number): string => {
    const { figure, unit } = volumeAs(units, system, litres);
    return `${figure} ${unit}`;
  };
  const next = USUAL.find((name) => !oil.held.some((row) => row.name === name)) ?? "other";
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
      {oil.mark_l != null ? (
        <EditFigure
          label="At the mark"
          field="oil.mark_l"
          value={oil.mark_l}
          onType={(typed) => onType(["oil.mark_l"], typed)}
        />
      ) : (
        <button
          type="button"
          className="py-1 text-[14px] underline"
          onClick={() => put({ mark_l: oil.volume_l }, "oil at the mark")}
        >
          Say how much it holds at the mark
        </button>
      )}
      {oil.held.length === 0 && (
        <EditFigure
          label="Away from the pan"
          field="oil.away_l"
          value={oil.away_l}
          note="running: heads, galleries, cooler, filter, lines"
          onType={(typed) => onType(["oil.away_l"], typed)}
        />
      )}
      <EditFigure
        label="Temperature in the pan"
        field="oil.temperature_c"
        value={oil.temperature_c}
        onType={(typed) => onType(["oil.temperature_c"], typed)}
      />
      {oil.held.length > 0 ? (
        <details className="pt-1">
          <summary className="text-[14px]">
            Away from the pan: {words(oil.away_l)} in {oil.held.length} places
          </summary>
          <Records
            records={oil.held}
            path="oil.held"
            empty=""
            specsOf={() => HELD}
            nameOf={({ name, volume_l }) => `${name}: ${words(volume_l)}`}
            additions={[
              {
                words: "Add a place",
                make: () => ({ name: freeName(oil.held, next), volume_l: 0.3 }),
              },
            ]}
            onType={onType}
            onPut={(held, change) => put({ held }, change)}
          />
        </details>
      ) : (
        <Button
          className="mt-2"
          onClick={() =>
            put({ held: [{ name: "all of it", volume_l: oil.away_l }] }, "oil away from the pan")
          }
        >
          Say it place by place
        </Button>
      )}
      {children}
    </FigureGroup>
  );
}
