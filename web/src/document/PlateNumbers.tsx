import type { ReactElement } from "react";
import type { Schemas } from "../api/client";
import type { BuildDocument } from "../api/queries";
import { Choice } from "../parts/Choice";
import { Button } from "../parts/Button";
import { Figure, GateNumbers, type Editing } from "./GateNumbers";
import {
  newOpening,
  newPlate,
  type HorizontalPlate,
  type Opening,
  type Plate,
  type VerticalPlate,
} from "./plates";
import type { Replace, Type } from "./ZoneNumbers";

const ROLES = { baffle: "a plate", windage_tray: "the windage tray" } as const;

function VerticalNumbers({
  plate,
  side,
  document,
  editing,
  onPlate,
}: {
  plate: VerticalPlate;
  side: "left" | "right" | null;
  document: BuildDocument;
  editing: Editing;
  onPlate: (plate: Plate, change: string) => void;
}): ReactElement {
  const openings = plate.openings;
  const put = (at: number, opening: Opening, change: string): void =>
    onPlate(
      { ...plate, openings: openings.map((each, index) => (index === at ? opening : each)) },
      change,
    );
  return (
    <>
      <Figure
        editing={editing}
        label="Starts, ahead of the rear face"
        field="from_mm.0"
        value={plate.from_mm[0]}
      />
      <Figure
        editing={editing}
        label="Starts, left of the centreline"
        field="from_mm.1"
        value={plate.from_mm[1]}
      />
      <Figure
        editing={editing}
        label="Ends, ahead of the rear face"
        field="to_mm.0"
        value={plate.to_mm[0]}
      />
      <Figure
        editing={editing}
        label="Ends, left of the centreline"
        field="to_mm.1"
        value={plate.to_mm[1]}
      />
      <Figure
        editing={editing}
        label="Upper edge below the rail"
        field="top_depth_mm"
        value={plate.top_depth_mm}
        note="minus: above the rail"
      />
      {plate.bottom_depth_mm != null ? (
        <Figure
          editing={editing}
          label="Lower edge below the rail"
          field="bottom_depth_mm"
          value={plate.bottom_depth_mm}
        />
      ) : (
        <p className="border-b border-hair py-1 text-[14px] text-ink-2">Stands on the floor.</p>
      )}
      {openings.map((opening, at) => {
        const inside = { ...editing, path: `${editing.path}.openings.${opening.id}` };
        return (
          <section key={opening.id} className="mt-2 border-l-2 border-hair pl-3">
            <h4 className="font-figure text-[15px] font-semibold">Opening {opening.name}</h4>
            <Figure
              editing={inside}
              label="From the plate's start"
              field="from_start_mm"
              value={opening.from_start_mm}
            />
            <Figure editing={inside} label="Wide" field="width_mm" value={opening.width_mm} />
            <Figure
              editing={inside}
              label="Lower edge below the rail"
              field="lower_depth_mm"
              value={opening.lower_depth_mm}
            />
            <Figure editing={inside} label="High" field="height_mm" value={opening.height_mm} />
            <GateNumbers
              gate={opening.gate ?? null}
              side={side}
              editing={inside}
              onGate={(gate, change) => put(at, { ...opening, gate }, `${opening.name}: ${change}`)}
            />
            <Button
              className="mt-2"
              onClick={() =>
                onPlate(
                  { ...plate, openings: openings.filter((_, index) => index !== at) },
                  `opening ${opening.name} closed`,
                )
              }
            >
              Close {opening.name}
            </Button>
          </section>
        );
      })}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          onClick={() =>
            onPlate(
              {
                ...plate,
                openings: [...openings, newOpening(plate, document, openings, side ?? "left")],
              },
              `opening with a gate in ${plate.name}`,
            )
          }
        >
          Add an opening
        </Button>
        <Button
          onClick={() =>
            onPlate(
              {
                ...plate,
                bottom_depth_mm: plate.bottom_depth_mm == null ? plate.top_depth_mm + 40 : null,
              },
              plate.bottom_depth_mm == null ? "off the floor" : "stands on the floor",
            )
          }
        >
          {plate.bottom_depth_mm == null ? "Lift it off the floor" : "Stand it on the floor"}
        </Button>
      </div>
    </>
  );
}

function HorizontalNumbers({
  plate,
  editing,
  onPlate,
}: {
  plate: HorizontalPlate;
  editing: Editing;
  onPlate: (plate: Plate, change: string) => void;
}): ReactElement {
  const openings = plate.openings;
  return (
    <>
      <Choice
        label="It is"
        value={plate.role}
        choices={ROLES}
        onChoose={(role) => onPlate({ ...plate, role }, `what ${plate.name} is`)}
      />
      <Figure
        editing={editing}
        label="Open by louvres, holes or mesh"
        field="open_pct"
        value={plate.open_pct}
      />
      <Figure editing={editing} label="Below the rail" field="depth_mm" value={plate.depth_mm} />
      {plate.outline_mm.map(([x, y], at) => (
        <div key={at} className="grid grid-cols-2 gap-4">
          <Figure
            editing={editing}
            narrow
            label={`Corner ${at + 1}, ahead`}
            field={`outline_mm.${at}.0`}
            value={x}
          />
          <Figure editing={editing} narrow label="left" field={`outline_mm.${at}.1`} value={y} />
        </div>
      ))}
      {openings.map((hatch, at) => {
        const inside = { ...editing, path: `${editing.path}.openings.${hatch.id}` };
        return (
          <section key={hatch.id} className="mt-2 border-l-2 border-hair pl-3">
            <h4 className="font-figure text-[15px] font-semibold">Opening {hatch.name}</h4>
            <Figure
              editing={inside}
              label="Centre, ahead of the rear face"
              field="x_mm"
              value={hatch.x_mm}
            />
            <Figure
              editing={inside}
              label="Centre, left of the centreline"
              field="y_mm"
              value={hatch.y_mm}
            />
            <Figure
              editing={inside}
              label="Long, along the engine"
              field="length_mm"
              value={hatch.length_mm}
            />
            <Figure
              editing={inside}
              label="Wide, across it"
              field="width_mm"
              value={hatch.width_mm}
            />
            <Button
              className="mt-2"
              onClick={() =>
                onPlate(
                  { ...plate, openings: openings.filter((_, index) => index !== at) },
                  `opening ${hatch.name} closed`,
                )
              }
            >
              Close {hatch.name}
            </Button>
          </section>
        );
      })}
    </>
  );
}

function gateWords(plate: VerticalPlate): string {
  const gates = plate.openings.filter(({ gate }) => gate).length;
  return gates === 0 ? "no gate" : gates === 1 ? "1 gate" : `${gates} gates`;
}

/** Plates and gates by number, and adding new ones. */
export function PlateNumbers({
  document,
  drawing,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  drawing: Schemas["DrawingOut"] | null;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const plates = document.pan.plates;
  const withPlates = (next: Plate[], change: string): void =>
    onReplace({ ...document, pan: { ...document.pan, plates: next } }, change);
  return (
    <>
      {plates.map((plate, index) => {
        const editing = { path: `pan.plates.${plate.id}`, onType };
        const onPlate = (next: Plate, change: string): void =>
          withPlates(
            plates.map((each, at) => (at === index ? next : each)),
            `${plate.name}: ${change}`,
          );
        return (
          <details key={plate.id} className="border-b border-hair">
            <summary className="flex h-10 items-center justify-between px-1 font-figure text-[17px] font-semibold">
              {plate.name}
              <span className="text-[14px] font-medium text-ink-2">
                {plate.kind === "horizontal" ? "level plate" : gateWords(plate)}
              </span>
            </summary>
            <div className="pb-3 pl-3">
              {plate.kind === "vertical" ? (
                <VerticalNumbers
                  plate={plate}
                  side={drawing?.plates[index]?.mouth_side ?? null}
                  document={document}
                  editing={editing}
                  onPlate={onPlate}
                />
              ) : (
                <HorizontalNumbers plate={plate} editing={editing} onPlate={onPlate} />
              )}
              <Button
                look="bad"
                className="mt-2"
                onClick={() =>
                  withPlates(
                    plates.filter((_, at) => at !== index),
                    `${plate.name} taken out`,
                  )
                }
              >
                Take {plate.name} out
              </Button>
            </div>
          </details>
        );
      })}
      <div className="my-2 flex flex-wrap gap-2">
        {(["across", "along", "level"] as const).map((way) => (
          <Button
            key={way}
            onClick={() => {
              const plate = newPlate(document, way);
              withPlates([...plates, plate], `${plate.name} put in`);
            }}
          >
            {way === "level" ? "Add a level plate" : `Add a plate ${way}`}
          </Button>
        ))}
      </div>
      {plates.length > 0 && (
        <p className="text-[13px] text-ink-2">
          Drawn, but not felt by settled oil: the verdict is that of the pan without them.
        </p>
      )}
    </>
  );
}
