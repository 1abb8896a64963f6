import type { ReactElement } from "react";
import { EditFigure } from "../parts/EditFigure";
import { Notice } from "../parts/Notice";
import type { Gate } from "./plates";
import type { Type } from "./ZoneNumbers";

const select = "rounded-[2px] border border-ink bg-panel px-2 py-1 text-[14px] text-ink";

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
      <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
        Gate
        <select
          className={select}
          value={gate?.swings ?? "none"}
          onChange={(event) => {
            const swings = event.target.value;
            if (swings === "left" || swings === "right")
              onGate({ leaf: "rubber", leak_pct: 4, ...gate, swings }, `gate swings ${swings}`);
            else onGate(null, "gate taken out");
          }}
        >
          <option value="none">none, open</option>
          <option value="left">swings to the plate&apos;s left</option>
          <option value="right">swings to the plate&apos;s right</option>
        </select>
      </label>
      {gate && (
        <>
          <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
            Leaf
            <select
              className={select}
              value={gate.leaf}
              onChange={(event) =>
                onGate(
                  { ...gate, leaf: event.target.value === "metal" ? "metal" : "rubber" },
                  `leaf ${event.target.value}`,
                )
              }
            >
              <option value="rubber">rubber: seals, ages</option>
              <option value="metal">metal: lasts, leaks more</option>
            </select>
          </label>
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
