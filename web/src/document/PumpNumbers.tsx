import { useState, type ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { useSettings } from "../parts/settings";
import { exactlyShown } from "../parts/units";
import { pumpOf, reliefOf, withComponent } from "./circuit/circuit";
import { AskFigures } from "./AskFigures";
import { GaugeReadings } from "./GaugeReadings";
import { RecordParts, type Spec } from "./Records";
import { figuresOf, useEdits } from "./useEdits";
import type { Replace, Type } from "./ZoneNumbers";

const FLOW: readonly Extract<Spec, { kind: "figure" }>[] = [
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
    mayBeUnknown: true,
  },
  { kind: "switch", key: "unplugged", label: "Unplugged: stays in high mode" },
];
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
  const { typeAct } = useEdits();
  const [asks, setAsks] = useState<"flow" | "low" | null>(null);
  const swept = exactlyShown(units, "displacement_cm3", system, pump.displacement_cm3);
  const path = `circuit.components.${pump.id}`;
  const put = (change: Partial<typeof pump>, words: string): void =>
    onReplace(withComponent(document, pump.id, change), words);
  const { flow_point: flow, low_stage: low } = pump;
  const begin = async (part: "flow_point" | "low_stage", typed: Record<string, string>) => {
    await typeAct(figuresOf(`${path}.${part}`, typed));
    setAsks(null);
  };
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
            {asks === "flow" ? (
              <AskFigures
                name="The flow that it is known by"
                asked={FLOW.map((each) => ({ ...each, mayBeEmpty: each.key === "filling_pct" }))}
                words="Take this flow"
                onAsk={(typed) => begin("flow_point", typed)}
              />
            ) : (
              <button
                type="button"
                className="py-1 text-[14px] underline"
                onClick={() => setAsks("flow")}
              >
                It is known by a flow instead
              </button>
            )}
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
        {asks === "low" && !low && (
          <AskFigures
            name="Its low mode"
            asked={LOW.flatMap((each) =>
              each.kind === "figure" ? [{ ...each, mayBeEmpty: each.mayBeUnknown }] : [],
            )}
            words="Take this low mode"
            onAsk={(typed) => begin("low_stage", typed)}
          />
        )}
        <div className="flex flex-wrap gap-2 pt-2">
          {low ? (
            <Button onClick={() => put({ low_stage: null }, "one stage")}>It has one stage</Button>
          ) : (
            asks !== "low" && <Button onClick={() => setAsks("low")}>It has two stages</Button>
          )}
        </div>
      </FigureGroup>
      <GaugeReadings />
    </>
  );
}
