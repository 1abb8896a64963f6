import type { ReactElement } from "react";
import { useCircuit } from "../api/queries";
import type { RowOf } from "../api/records";
import { Button } from "../parts/Button";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { Mark } from "../parts/Mark";
import { Notice } from "../parts/Notice";
import { useSettings } from "../parts/settings";
import { shownAs } from "../parts/units";
import { AskFigures } from "./AskFigures";
import { useBuildView } from "./BuildContext";
import { TakenBy } from "./TakenBy";
import { useEdits } from "./useEdits";
import { useKept, type Keeping } from "./useRecords";

const FIGURES = [
  ["engine_rpm", "Engine speed"],
  ["pressure_bar", "Gallery pressure"],
  ["oil_temperature_c", "Oil temperature"],
] as const;

function Reading({ row, kept }: { row: RowOf<"gauge">; kept: Keeping<"gauge"> }): ReactElement {
  const { system, units } = useSettings();
  const { record } = row;
  const bar = shownAs(units, "pressure_bar", system, record.pressure_bar);
  const name = `${record.engine_rpm} rpm: ${bar ? `${bar.figure} ${bar.unit}` : `${record.pressure_bar} bar`}`;
  return (
    <details className="border-b border-hair">
      <summary className="py-1.5 text-[14px] font-medium">{name}</summary>
      <div className="pb-2 pl-3">
        {FIGURES.map(([key, label]) => (
          <EditFigure
            key={key}
            label={label}
            field={`record.${key}`}
            value={record[key]}
            onType={(typed) => kept.keep({ ...record, [key]: typed }, row.id)}
          />
        ))}
        <TakenBy row={row} />
        <Button
          look="bare"
          className="px-0 underline"
          aria-label={`Strike out ${name}`}
          onClick={() => kept.strike(row.id)}
        >
          strike out
        </Button>
      </div>
    </details>
  );
}

/** A reading as it is typed, at the oil's own temperature. */
function NewReading({ kept }: { kept: Keeping<"gauge"> }): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const { temperature_c: oil_temperature_c } = build.document.oil;
  const reading = { kind: "gauge", engine_rpm: 0, pressure_bar: 0, oil_temperature_c } as const;
  return (
    <AskFigures
      name="What the gauge read"
      asked={FIGURES.slice(0, 2).map(([key, label]) => ({
        key,
        label,
        like: shownAs(units, key, system, 0)?.unit,
      }))}
      words="Add the reading"
      onAsk={(typed) => kept.keep({ ...reading, ...typed })}
    />
  );
}

/** What the readings told last, and whether the circuit is another since. */
function Told(): ReactElement | null {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const told = useCircuit(build).data?.calibrated;
  if (!told) return null;
  const flow = shownAs(units, "flow_l_min", system, told.flow_l_min);
  const bar = shownAs(units, "at_bar", system, told.at_bar);
  return (
    <div className="flex gap-2 py-2 text-[14px]">
      <Mark state={told.changed_since ? "caution" : "good"} />
      <p>
        Bearings and all else take {flow?.figure ?? told.flow_l_min.toFixed(0)}{" "}
        {flow?.unit ?? "L/min"} at {bar?.figure ?? told.at_bar} {bar?.unit ?? "bar"}, to about{" "}
        {told.uncertainty_pct.toFixed(0)} %: {told.source}.
        {told.jets &&
          ` Jets spray ${told.jets.share.toFixed(2)} of what holes of their bore do, to about ${told.jets.uncertainty_pct.toFixed(0)} %.`}
        {told.changed_since && " The circuit has been changed since."}
      </p>
    </div>
  );
}

/** What the gauge read, and taking over what that tells of the engine. */
export function GaugeReadings(): ReactElement {
  const kept = useKept("gauge");
  const { act, fault } = useEdits();
  const { rows } = kept;
  return (
    <FigureGroup title="Gauge readings">
      {rows?.length === 0 && (
        <p className="py-1 text-[14px] text-ink-2">
          Hot idle and one or two at middling rpm, below the relief: they say what the engine
          drinks. Three or more, under and over where piston jets open, tell those apart.
        </p>
      )}
      {!rows && !kept.fault && <p className="py-1 text-[14px] text-ink-2">Looking them up…</p>}
      {(kept.fault ?? fault) && (
        <Notice kind="bad" title="Not saved">
          {kept.fault ?? fault}
        </Notice>
      )}
      {rows?.map((row) => (
        <Reading key={row.id} row={row} kept={kept} />
      ))}
      <NewReading kept={kept} />
      <div className="flex flex-wrap gap-2 pt-2">
        {rows && rows.length > 0 && (
          <Button
            onClick={() =>
              act({
                kind: "calibrate",
                readings: rows.map(({ record }) => ({
                  engine_rpm: record.engine_rpm,
                  pressure_bar: record.pressure_bar,
                  oil_temperature_c: record.oil_temperature_c,
                })),
              })
            }
          >
            Take over what they tell
          </Button>
        )}
      </div>
      <Told />
    </FigureGroup>
  );
}
