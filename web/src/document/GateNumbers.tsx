import type { ReactElement } from "react";
import { Choice } from "../parts/Choice";
import { EditFigure } from "../parts/EditFigure";
import { Notice } from "../parts/Notice";
import type { Gate } from "./plates";
import type { Type } from "./ZoneNumbers";
import { NOT_GIVEN } from "./ids";

const SWINGS: Record<Gate["swings"] | "none", string> = {
  none: "none, open",
  left: "swings to the plate's left",
  right: "swings to the plate's right",
};
const LEAVES: Record<Gate["leaf"], string> = {
  rubber: "rubber: seals, ages",
  metal: "metal: lasts, leaks more",
};

/** Where in the document a part lies, and how its figures are typed. */
export interface Editing {
  path: string;
  onType: Type;
}

/** A figure of that part. */
export function Figure({
  editing,
  label,
  field,
  value,
  note,
  narrow,
}: {
  editing: Editing;
  label: string;
  field: string;
  value: number;
  note?: string;
  narrow?: boolean;
}): ReactElement {
  const path = `${editing.path}.${field}`;
  return (
    <EditFigure
      label={label}
      field={path}
      value={value}
      note={note}
      narrow={narrow}
      onType={(typed) => editing.onType([path], typed)}
    />
  );
}

/** The gate of an opening: which way it swings, its leaf, and turning it round. */
export function GateNumbers({
  gate,
  side,
  editing,
  onGate,
}: {
  gate: Gate | null;
  /** Where the mouth is, from the core; null while it is not known. */
  side: "left" | "right" | null;
  editing: Editing;
  onGate: (gate: Gate | null, change: string) => void;
}): ReactElement {
  return (
    <>
      <Choice
        label="Gate"
        value={gate?.swings ?? "none"}
        choices={SWINGS}
        onChoose={(swings) => {
          if (swings === "none") onGate(null, "gate taken out");
          else
            onGate(
              { id: NOT_GIVEN, leaf: "rubber", leak_pct: 4, ...gate, swings },
              `gate swings ${swings}`,
            );
        }}
      />
      {gate && (
        <>
          <Choice
            label="Leaf"
            value={gate.leaf}
            choices={LEAVES}
            onChoose={(leaf) => onGate({ ...gate, leaf }, `leaf ${leaf}`)}
          />
          <Figure
            editing={editing}
            label="Leaks when shut"
            field="gate.leak_pct"
            value={gate.leak_pct}
          />
          {side !== null && gate.swings !== side && (
            <div className="py-2">
              <Notice kind="bad" title="Swings away from the mouth">
                Worse than none: it lets oil out.{" "}
                <button
                  type="button"
                  className="font-semibold underline"
                  onClick={() => onGate({ ...gate, swings: side }, "gate turned round")}
                >
                  Turn it round
                </button>
              </Notice>
            </div>
          )}
        </>
      )}
    </>
  );
}
