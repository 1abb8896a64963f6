import { useState, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import type { BuildDocument } from "../api/queries";
import { exportAddress } from "../api/records";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { FigureGroup } from "../parts/FigureGroup";
import { Notice } from "../parts/Notice";
import { useSettings } from "../parts/settings";
import { lengthAs, volumeAs } from "../parts/units";
import { useBuildView } from "./BuildContext";
import { CircuitNumbers } from "./circuit/CircuitNumbers";
import { newSideBox, newZone } from "./edges";
import { FittedNumbers } from "./FittedNumbers";
import { OilNumbers } from "./OilNumbers";
import { PickupNumbers } from "./PickupNumbers";
import { FitForms } from "./circuit/FitForms";
import { PAN_KINDS } from "./panFits";
import { PlateNumbers } from "./PlateNumbers";
import { Preset } from "./Preset";
import { PumpNumbers } from "./PumpNumbers";
import { useEdits, type Edits } from "./useEdits";
import { ZoneNumbers } from "./ZoneNumbers";

function LongText({
  label,
  value,
  rows,
  onType,
}: {
  label: string;
  value: string;
  rows: number;
  onType: (typed: string) => void;
}): ReactElement {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <label className="block py-1 text-[14px] text-ink-2">
      {label}
      <textarea
        rows={rows}
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => {
          if (draft !== null && draft !== value) onType(draft);
          setDraft(null);
        }}
        className="mt-1 block w-full rounded-[2px] border border-ink bg-panel px-2 py-1 text-ink"
      />
    </label>
  );
}

const NOSES: Record<BuildDocument["car"]["nose_points"], string> = {
  front: "to the front",
  rear: "to the rear",
  left: "to the left",
  right: "to the right",
};
const MOUTHS: Record<BuildDocument["pickup"]["mouth"]["kind"], string> = {
  round: "round",
  rectangular: "rectangular",
};

type Drawing = Schemas["DrawingOut"];

/** What the circuit holds while the engine runs, and where that is not what was typed. */
export function heldWords(
  held: Drawing["held"],
  typed: number,
  litres: (each: number) => string,
  unit: string,
): string {
  const gap = held.total_l - typed;
  const beside =
    Math.abs(gap) < 0.15
      ? ""
      : ` That is ${litres(Math.abs(gap))} ${unit} ${gap > 0 ? "more" : "less"} than was said to be away: forecasts go by the circuit.`;
  const back =
    held.coming_back_l === 0 ? "" : `, ${litres(held.coming_back_l)} in the lines back to the tank`;
  const more = held.learned_l;
  const learned =
    more === 0
      ? ""
      : `, ${litres(Math.abs(more))} ${more > 0 ? "more" : "less"} up top by the track book`;
  return `Running at ${held.rpm} rpm the circuit holds ${litres(held.total_l)} ${unit}: ${litres(held.pressed_l)} under pressure, ${litres(held.heads_l)} in the heads, ${litres(held.thrown_l)} off the crank${back}${learned}.${beside}`;
}

/** What is poured, and what that leaves in the pan. */
function Poured({ drawing, edits }: { drawing: Drawing | null; edits: Edits }): ReactElement {
  const { system, units } = useSettings();
  const { document } = useBuildView().build;
  const standing = drawing ? lengthAs(units, system, drawing.standing.cover_mm) : null;
  const litres = (each: number): string => volumeAs(units, system, each).figure;
  const held =
    drawing &&
    heldWords(drawing.held, document.oil.away_l, litres, volumeAs(units, system, 1).unit);
  const inPan = drawing ? volumeAs(units, system, drawing.oil_in_pan_l) : null;
  return (
    <OilNumbers document={document} onType={edits.type} onReplace={edits.replace}>
      {inPan && standing && (
        <p className="pt-2 text-[14px] text-ink-2">
          {held} Leaves {inPan.figure} {inPan.unit} in the pan, hot; standing it covers the mouth by{" "}
          {standing.figure} {standing.unit}.
        </p>
      )}
    </OilNumbers>
  );
}

/** The zones, other shapes to begin from, and the skirt above them. */
function Zones({ edits }: { edits: Edits }): ReactElement {
  const { document } = useBuildView().build;
  const { pan } = document;
  const { type, replace, act } = edits;
  const add = (zone: (typeof pan.zones)[number] | null): void => {
    if (zone)
      replace({ ...document, pan: { ...pan, zones: [...pan.zones, zone] } }, `${zone.name} added`);
  };
  return (
    <FigureGroup title="Pan zones">
      {pan.zones.map((zone, index) => (
        <ZoneNumbers
          key={`${index}-${zone.name}`}
          document={document}
          index={index}
          onType={type}
          onReplace={replace}
        />
      ))}
      <div className="my-2 flex flex-wrap gap-2">
        <Button onClick={() => add(newZone(pan.zones))}>Add a zone in front</Button>
        <Button onClick={() => add(newSideBox(pan.zones))}>Add a side box</Button>
      </div>
      <Preset onAct={act} />
      <EditFigure
        label="Skirt above the rail"
        field="pan.skirt_height_mm"
        value={pan.skirt_height_mm}
        note="straight walls that oil can climb"
        onType={(typed) => type(["pan.skirt_height_mm"], typed)}
      />
    </FigureGroup>
  );
}

/** The mouth, the tube above it and its joint. */
function Pickup({ edits }: { edits: Edits }): ReactElement {
  const { limits } = useSettings();
  const { document } = useBuildView().build;
  const { pickup } = document;
  const { type, replace } = edits;
  const one = (label: string, field: string, value: number, note?: string): ReactElement => (
    <EditFigure
      label={label}
      field={field}
      value={value}
      note={note}
      onType={(typed) => type([field], typed)}
    />
  );
  const mouthKind = (kind: keyof typeof MOUTHS): void => {
    const size = pickup.mouth.kind === "round" ? pickup.mouth.diameter_mm : pickup.mouth.length_mm;
    const mouth: BuildDocument["pickup"]["mouth"] =
      kind === "round"
        ? { kind: "round", diameter_mm: size }
        : { kind: "rectangular", length_mm: size, width_mm: size };
    replace({ ...document, pickup: { ...pickup, mouth } }, `${kind} mouth`);
  };
  return (
    <FigureGroup title="Pickup">
      {one("Mouth's centre, ahead of the rear face", "pickup.x_mm", pickup.x_mm)}
      {one("Left of the crank's centreline", "pickup.y_mm", pickup.y_mm)}
      <Choice label="Mouth" value={pickup.mouth.kind} choices={MOUTHS} onChoose={mouthKind} />
      {pickup.mouth.kind === "round" ? (
        one("Diameter", "pickup.mouth.diameter_mm", pickup.mouth.diameter_mm)
      ) : (
        <>
          {one("Length along the engine", "pickup.mouth.length_mm", pickup.mouth.length_mm)}
          {one("Width across it", "pickup.mouth.width_mm", pickup.mouth.width_mm)}
        </>
      )}
      {one("Gap to the floor", "pickup.gap_mm", pickup.gap_mm, limits.mouthGap)}
      <PickupNumbers document={document} onType={type} onReplace={replace} />
    </FigureGroup>
  );
}

type Choose = (field: string, value: string) => void;

function InTheCar({ type, choose }: { type: Edits["type"]; choose: Choose }): ReactElement {
  const { car } = useBuildView().build.document;
  return (
    <FigureGroup title="Engine in the car">
      <Choice
        label="Crank's nose points"
        value={car.nose_points}
        choices={NOSES}
        onChoose={(nose) => choose("car.nose_points", nose)}
      />
      <EditFigure
        label="Leaned to its right"
        field="car.lean_right_deg"
        value={car.lean_right_deg}
        note="minus: to its left"
        onType={(typed) => type(["car.lean_right_deg"], typed)}
      />
      <EditFigure
        label="Nose higher than tail"
        field="car.nose_up_deg"
        value={car.nose_up_deg}
        onType={(typed) => type(["car.nose_up_deg"], typed)}
      />
    </FigureGroup>
  );
}

function NameAndNotes({ choose }: { choose: Choose }): ReactElement {
  const { build } = useBuildView();
  return (
    <FigureGroup title="Build">
      <LongText
        label="Name"
        rows={1}
        value={build.name}
        onType={(typed) => choose("name", typed)}
      />
      <LongText
        label="Notes"
        rows={4}
        value={build.document.notes}
        onType={(typed) => choose("notes", typed)}
      />
      <p className="mt-2 flex flex-wrap gap-x-4 text-[14px]">
        <a href={exportAddress(build)} download className="underline">
          Save the build as a file
        </a>
        <a href={`/api/builds/${build.id}/document`} download className="underline">
          Its bare document
        </a>
      </p>
    </FigureGroup>
  );
}

/** Every number of the build: typed with any unit, saved at once, undone with ctrl Z. */
export function Numbers({
  drawing,
  lead = "oil",
}: {
  drawing: Drawing | null;
  /** What comes first: what is poured, what is measured with a tape, or the oil circuit. */
  lead?: "oil" | "zones" | "circuit";
}): ReactElement {
  const { document } = useBuildView().build;
  const edits = useEdits();
  const { fault, type, act, replace } = edits;
  const choose: Choose = (field, value) => act({ kind: "figures", figures: [{ field, value }] });
  const poured = <Poured drawing={drawing} edits={edits} />;
  const zones = <Zones edits={edits} />;
  const circuit = (
    <>
      <PumpNumbers document={document} onType={type} onReplace={replace} />
      <CircuitNumbers edits={edits} />
    </>
  );
  return (
    <div className="pb-4">
      {fault && (
        <div className="p-3">
          <Notice kind="bad" title="Not saved">
            {fault}
          </Notice>
        </div>
      )}
      {lead === "circuit" && circuit}
      {lead === "zones" ? zones : poured}
      <Pickup edits={edits} />
      {lead === "zones" ? poured : zones}
      <FigureGroup title="Plates and gates">
        <FitForms kinds={PAN_KINDS} title="Fit plates, gates, a tray; widen the sump" />
        <PlateNumbers document={document} drawing={drawing} onType={type} onReplace={replace} />
      </FigureGroup>
      <FittedNumbers document={document} onType={type} onReplace={replace} onAct={act} />
      <InTheCar type={type} choose={choose} />
      {lead !== "circuit" && circuit}
      <NameAndNotes choose={choose} />
    </div>
  );
}
