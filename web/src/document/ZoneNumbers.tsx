import type { ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { cornerFields, depthsOf, edgeFields, rectangleOf, type Side, type Zone } from "./edges";

export type Type = (fields: string[], typed: string) => Promise<unknown>;
export type Replace = (document: BuildDocument, change: string) => void;

const FLOORS: Record<"flat" | "lengthways" | "sideways" | "surface", string> = {
  surface: "a surface, as scanned",
  flat: "flat",
  lengthways: "ramp along the engine",
  sideways: "ramp across it",
};

const sides: [Side, string][] = [
  ["rear", "rear edge, ahead of the rear face"],
  ["front", "front edge"],
  ["right", "right edge, left of the centreline"],
  ["left", "left edge"],
];

function Floor({ zone, path, onType }: { zone: Zone; path: string; onType: Type }): ReactElement {
  const { floor } = zone;
  if (floor.kind === "flat")
    return (
      <EditFigure
        label="Depth below the rail"
        field={`${path}.floor.depth_mm`}
        value={floor.depth_mm}
        onType={(typed) => onType([`${path}.floor.depth_mm`], typed)}
      />
    );
  if (floor.kind === "surface") {
    const { least, most } = depthsOf(floor);
    return (
      <p className="py-1 text-[14px] text-ink-2">
        A surface of {floor.triangles.length} pieces, {least.toFixed(0)} to {most.toFixed(0)} mm
        below the rail, as it was scanned.
      </p>
    );
  }
  const ends = floor.runs === "lengthways" ? ["rear", "front"] : ["right", "left"];
  return (
    <>
      <EditFigure
        label={`Depth at its ${ends[0]} edge`}
        field={`${path}.floor.from_depth_mm`}
        value={floor.from_depth_mm}
        onType={(typed) => onType([`${path}.floor.from_depth_mm`], typed)}
      />
      <EditFigure
        label={`Depth at its ${ends[1]} edge`}
        field={`${path}.floor.to_depth_mm`}
        value={floor.to_depth_mm}
        onType={(typed) => onType([`${path}.floor.to_depth_mm`], typed)}
      />
    </>
  );
}

function Outline({
  zones,
  index,
  onType,
}: {
  zones: Zone[];
  index: number;
  onType: Type;
}): ReactElement {
  const zone = zones[index];
  const path = `pan.zones.${zone?.id ?? index}`;
  const edges = zone ? rectangleOf(zone) : null;
  if (edges)
    return (
      <>
        {sides.map(([side, label]) => (
          <EditFigure
            key={side}
            label={`${label.charAt(0).toUpperCase()}${label.slice(1)}`}
            field={`${path}.outline_mm`}
            value={edges[side]}
            onType={(typed) => onType(edgeFields(zones, index, side), typed)}
          />
        ))}
      </>
    );
  return (
    <>
      {zone?.outline_mm.map(([x, y], at) => (
        <div key={at} className="grid grid-cols-2 gap-4">
          <EditFigure
            narrow
            label={`Corner ${at + 1}, ahead`}
            field={`${path}.outline_mm.${at}.0`}
            value={x}
            onType={(typed) => onType(cornerFields(zones, index, at, 0), typed)}
          />
          <EditFigure
            narrow
            label="left"
            field={`${path}.outline_mm.${at}.1`}
            value={y}
            onType={(typed) => onType(cornerFields(zones, index, at, 1), typed)}
          />
        </div>
      ))}
    </>
  );
}

function withZone(document: BuildDocument, index: number, zone: Zone): BuildDocument {
  const zones = document.pan.zones.map((each, at) => (at === index ? zone : each));
  return { ...document, pan: { ...document.pan, zones } };
}

function withCorner(zone: Zone): Zone {
  const [first, ...others] = zone.outline_mm;
  const last = others.at(-1);
  if (!first || !last) return zone;
  const between: [number, number] = [(first[0] + last[0]) / 2, (first[1] + last[1]) / 2];
  return { ...zone, outline_mm: [...zone.outline_mm, between] };
}

/** One zone's numbers, and what can be done with it. */
export function ZoneNumbers({
  document,
  index,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  index: number;
  onType: Type;
  onReplace: Replace;
}): ReactElement | null {
  const { zones } = document.pan;
  const zone = zones[index];
  if (!zone) return null;
  const path = `pan.zones.${zone.id}`;
  const { floor } = zone;
  const depth = floor.kind === "ramp" ? floor.to_depth_mm : depthsOf(floor).most;
  const replace = (next: Zone, change: string): void =>
    onReplace(withZone(document, index, next), `${zone.name}: ${change}`);
  const kind = floor.kind === "ramp" ? floor.runs : floor.kind;
  return (
    <details className="border-b border-hair" open={zones.length === 1}>
      <summary className="flex h-10 items-center justify-between px-1 font-figure text-[17px] font-semibold">
        {zone.name}
        <span className="text-[14px] font-medium text-ink-2">
          {zone.ceiling_depth_mm == null ? kind : "side box"}
        </span>
      </summary>
      <div className="pb-3 pl-3">
        <Choice
          label="Floor"
          value={kind}
          choices={FLOORS}
          onChoose={(runs) => {
            if (runs === "surface") return; // only a scan gives one
            const next: Zone["floor"] =
              runs === "flat"
                ? { kind: "flat", depth_mm: depth }
                : { kind: "ramp", runs, from_depth_mm: depth, to_depth_mm: depth };
            replace({ ...zone, floor: next }, `floor ${runs}`);
          }}
        />
        <Floor zone={zone} path={path} onType={onType} />
        {zone.ceiling_depth_mm != null && (
          <EditFigure
            label="Ceiling below the rail"
            field={`${path}.ceiling_depth_mm`}
            value={zone.ceiling_depth_mm}
            onType={(typed) => onType([`${path}.ceiling_depth_mm`], typed)}
          />
        )}
        <Outline zones={zones} index={index} onType={onType} />
        <EditFigure
          label="Draft of its outer walls"
          field={`${path}.draft_deg`}
          value={zone.draft_deg}
          note={
            zone.draft_deg > 0
              ? "they lean inward toward the floor; walls shared with another zone stay upright"
              : undefined
          }
          onType={(typed) => onType([`${path}.draft_deg`], typed)}
        />
        <div className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => replace(withCorner(zone), "corner added")}>Add a corner</Button>
          {zone.outline_mm.length > 3 && (
            <Button
              onClick={() =>
                replace({ ...zone, outline_mm: zone.outline_mm.slice(0, -1) }, "corner removed")
              }
            >
              Remove the last corner
            </Button>
          )}
          <Button
            onClick={() =>
              replace(
                { ...zone, ceiling_depth_mm: zone.ceiling_depth_mm == null ? depth / 2 : null },
                zone.ceiling_depth_mm == null ? "closed above" : "open to the rail",
              )
            }
          >
            {zone.ceiling_depth_mm == null ? "Close it above" : "Open it to the rail"}
          </Button>
          {zones.length > 1 && (
            <Button
              look="bad"
              onClick={() =>
                onReplace(
                  {
                    ...document,
                    pan: { ...document.pan, zones: zones.filter((_, at) => at !== index) },
                  },
                  `${zone.name} removed`,
                )
              }
            >
              Remove {zone.name}
            </Button>
          )}
        </div>
      </div>
    </details>
  );
}
