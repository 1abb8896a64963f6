import type { ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { useSettings } from "../parts/settings";
import { exactlyShown } from "../parts/units";
import { pumpOf, reliefOf, withComponent } from "./circuit/circuit";
import { GaugeReadings } from "./GaugeReadings";
import { RecordParts, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";

const FLOW: readonly Spec[] = [
  { kind: "figure", key: "flow_l_min", label: "It delivered" },
  { kind: "figure", key: "engine_rpm", label: "at an engine speed of" },
  {
    kind: "figure",
    key: "filling_pct",
    label: "Filled to",
    note: "of its displacement; 90 % where it is not known (from memory)",
  },
];
const LOW: readonly Spec[] = [
  {
    kind: "figure",
    key: "displacement_cm3",
    label: "Low mode, per turn",
    note: "half of the pump's at first, a guess: type yours over it",
  },
  {
    kind: "figure",
    key: "up_to_rpm",
    label: "Low mode below",
    note: "about 2000 rpm is common practice",
  },
  {
    kind: "figure",
    key: "relief_bar",
    label: "Relief in low mode",
    note: "2 bar at first, a guess: type yours over it",
  },
  { kind: "switch", key: "unplugged", label: "Unplugged: stays in high mode" },
];
const AT_RPM = 6000;
const FILLING_PCT = 90; // from memory

/** The flow that the displacement gives: to be typed over, and nothing moves until it is. */
const sameFlow = ({ displacement_cm3, drive_ratio }: ReturnType<typeof pumpOf>) => ({
  flow_l_min: (displacement_cm3 * drive_ratio * AT_RPM * FILLING_PCT) / 100 / 1000,
  engine_rpm: AT_RPM,
  filling_pct: FILLING_PCT,
});

/** The pump: displacement or a flow figure, one or two stages, relief; and what the gauge read. */
export function PumpNumbers({
  document,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const pump = pumpOf(document);
  const relief = reliefOf(document);
  const { units, system } = useSettings();
  const swept = exactlyShown(units, "displacement_cm3", system, pump.displacement_cm3);
  const path = `circuit.components.${pump.id}`;
  const put = (change: Partial<typeof pump>, words: string): void =>
    onReplace(withComponent(document, pump.id, change), words);
  const { flow_point: flow, low_stage: low } = pump;
  return (
    <>
      <FigureGroup title="Pump">
        {flow ? (
          <>
            <RecordParts
              record={flow}
              path={`${path}.flow_point`}
              specs={FLOW}
              onType={onType}
              onPut={(next) => put({ flow_point: next }, "flow point")}
            />
            <p className="py-1 text-[14px]">
              That is {swept.figure} {swept.unit} a turn of the pump.{" "}
              <button
                type="button"
                className="underline"
                onClick={() => put({ flow_point: null }, "displacement by hand")}
              >
                Give the displacement itself
              </button>
            </p>
          </>
        ) : (
          <>
            <EditFigure
              label="Displacement per turn"
              field={`${path}.displacement_cm3`}
              value={pump.displacement_cm3}
              onType={(typed) => onType([`${path}.displacement_cm3`], typed)}
            />
            <button
              type="button"
              className="py-1 text-[14px] underline"
              onClick={() => put({ flow_point: sameFlow(pump) }, "flow point")}
            >
              It is known by a flow instead
            </button>
          </>
        )}
        <EditFigure
          label="Pump turns per crank turn"
          field={`${path}.drive_ratio`}
          value={pump.drive_ratio}
          onType={(typed) => onType([`${path}.drive_ratio`], typed)}
        />
        {relief && (
          <EditFigure
            label="Relief opens at"
            field={`circuit.components.${relief.id}.opens_bar`}
            value={relief.opens_bar ?? null}
            onType={(typed) => onType([`circuit.components.${relief.id}.opens_bar`], typed)}
            onClear={() =>
              onReplace(withComponent(document, relief.id, { opens_bar: null }), "relief not known")
            }
          />
        )}
        {low && (
          <RecordParts
            record={low}
            path={`${path}.low_stage`}
            specs={LOW}
            onType={onType}
            onPut={(next) => put({ low_stage: next }, "low mode of the pump")}
          />
        )}
        <div className="flex flex-wrap gap-2 pt-2">
          {low ? (
            <Button onClick={() => put({ low_stage: null }, "one stage")}>It has one stage</Button>
          ) : (
            <Button
              onClick={() =>
                put(
                  {
                    low_stage: {
                      displacement_cm3: Math.round(pump.displacement_cm3 * 5) / 10,
                      up_to_rpm: 2000,
                      relief_bar: 2,
                      unplugged: false,
                    },
                  },
                  "two stages",
                )
              }
            >
              It has two stages
            </Button>
          )}
        </div>
      </FigureGroup>
      <GaugeReadings />
    </>
  );
}
