import { useState, type ReactElement, type ReactNode } from "react";
import { Button } from "../parts/Button";
import { EditFigure } from "../parts/EditFigure";
import { NotYours } from "./NotYours";
import type { Type } from "./ZoneNumbers";

/** How one part of a record is edited. */
export type Spec =
  | { kind: "figure"; key: string; label: string; note?: string; mayBeUnknown?: boolean }
  | { kind: "text"; key: string; label: string }
  | { kind: "choice"; key: string; label: string; choices: readonly (readonly [string, string])[] }
  | { kind: "switch"; key: string; label: string }
  /** Another part, by its id. */
  | { kind: "part"; key: string; label: string };

type Parts = Record<string, unknown>;

/** The part of a record at a key such as `from_mm.2`. */
export function partAt(record: object, key: string): unknown {
  return key
    .split(".")
    .reduce<unknown>(
      (holder, step) =>
        typeof holder === "object" && holder !== null ? (holder as Parts)[step] : undefined,
      record,
    );
}

type Named = { id?: string; name: string };

const choicesOf = (
  spec: Extract<Spec, { kind: "choice" | "part" }>,
  parts: readonly Named[],
): readonly (readonly [string, string])[] =>
  spec.kind === "choice"
    ? spec.choices
    : [["", "its own inlet"], ...parts.map(({ id, name }) => [id ?? "", name] as const)];

/** What is chosen as the document has it: nothing is null, a number a number. */
function chosen(spec: Spec, value: string): string | number | null {
  if (spec.kind === "part") return value;
  if (value === "") return null;
  return /^\d+$/.test(value) ? Number(value) : value;
}

const row =
  "flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2";

function Part({
  spec,
  record,
  path,
  parts,
  onType,
  onPut,
}: {
  spec: Spec;
  record: object;
  path: string;
  parts: readonly Named[];
  onType: Type;
  onPut: (change: Parts) => void;
}): ReactElement | null {
  const value = partAt(record, spec.key);
  if (spec.kind === "figure") {
    const known = typeof value === "number";
    if (!known && !spec.mayBeUnknown) return null;
    const field = `${path}.${spec.key}`;
    return (
      <EditFigure
        label={spec.label}
        field={field}
        value={known ? value : null}
        note={spec.note}
        onType={(typed) => onType([field], typed)}
        onClear={spec.mayBeUnknown && (() => onPut({ [spec.key]: null }))}
      />
    );
  }
  if (spec.kind === "switch")
    return (
      <label className={row}>
        {spec.label}
        <input
          type="checkbox"
          checked={value === true}
          onChange={(event) => onPut({ [spec.key]: event.target.checked })}
          className="size-4 accent-[var(--ink)]"
        />
      </label>
    );
  if (spec.kind === "choice" || spec.kind === "part")
    return (
      <label className={row}>
        {spec.label}
        <select
          value={typeof value === "string" || typeof value === "number" ? `${value}` : ""}
          onChange={(event) => onPut({ [spec.key]: chosen(spec, event.target.value) })}
          className="max-w-44 rounded-[2px] border border-ink bg-panel px-2 py-1 text-[14px] text-ink"
        >
          {choicesOf(spec, parts).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
    );
  const text = typeof value === "string" ? value : "";
  return (
    <label className={row}>
      {spec.label}
      <input
        key={text}
        defaultValue={text}
        maxLength={80}
        className="w-40 border-b border-dotted border-ink bg-transparent text-right text-ink"
        onBlur={(event) => {
          const next = event.target.value.trim();
          if (next !== "" && next !== text) onPut({ [spec.key]: next });
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
        }}
      />
    </label>
  );
}

/** One record's parts, one under another. */
export function RecordParts<T extends object>({
  record,
  path,
  specs,
  parts = [],
  onType,
  onPut,
}: {
  record: T;
  path: string;
  specs: readonly Spec[];
  /** What a part of the record may name by its id. */
  parts?: readonly Named[];
  onType: Type;
  onPut: (record: T) => void;
}): ReactElement {
  return (
    <>
      {specs.map((spec) => (
        <Part
          key={spec.key}
          spec={spec}
          record={record}
          path={path}
          parts={parts}
          onType={onType}
          onPut={(change) => onPut({ ...record, ...change })}
        />
      ))}
    </>
  );
}

/** What stands in a list: known by its id where it has one, else by its place. */
type Listed = object & { id?: string };

/** A list of like things: each folded under its name, with all that can be said of it. */
export function Records<T extends Listed>({
  records,
  path,
  empty,
  specsOf,
  nameOf,
  isAssumed,
  additions,
  onType,
  onPut,
}: {
  records: readonly T[];
  path: string;
  /** What to say while there are none. */
  empty: ReactNode;
  specsOf: (record: T) => readonly Spec[];
  nameOf: (record: T) => string;
  /** Whether nobody measured it yet. */
  isAssumed?: (record: T) => boolean;
  additions: readonly { words: string; make: () => T }[];
  onType: Type;
  onPut: (records: T[], change: string) => void;
}): ReactElement {
  // what was put in last is at a usual place, not at its own yet: it stands open to be measured
  const [added, setAdded] = useState<number | null>(null);
  return (
    <>
      {records.length === 0 && <p className="py-1 text-[14px] text-ink-2">{empty}</p>}
      {records.map((record, index) => (
        <details
          key={record.id ?? `${index}-${nameOf(record)}`}
          open={index === added || undefined}
          className="border-b border-hair"
        >
          <summary className="py-1.5 text-[14px] font-medium">
            {nameOf(record)}
            {isAssumed?.(record) && <NotYours />}
          </summary>
          <div className="pb-2 pl-3">
            <RecordParts
              record={record}
              path={`${path}.${record.id ?? index}`}
              specs={specsOf(record)}
              onType={onType}
              onPut={(next) =>
                onPut(
                  records.map((each, at) => (at === index ? next : each)),
                  `${nameOf(next)} changed`,
                )
              }
            />
            <Button
              look="bare"
              className="px-0 underline"
              aria-label={`Remove ${nameOf(record)}`}
              onClick={() => {
                setAdded(null);
                onPut(
                  records.filter((_, at) => at !== index),
                  `${nameOf(record)} removed`,
                );
              }}
            >
              remove
            </Button>
          </div>
        </details>
      ))}
      <div className="flex flex-wrap gap-2 pt-2">
        {additions.map(({ words, make }) => (
          <Button
            key={words}
            onClick={() => {
              const made = make();
              setAdded(records.length);
              onPut([...records, made], `${nameOf(made)} added`);
            }}
          >
            {words}
          </Button>
        ))}
      </div>
    </>
  );
}

/** A name that is not taken yet: "boss", "boss 2". */
export function freeName(taken: readonly { name: string }[], base: string): string {
  const names = new Set(taken.map(({ name }) => name));
  if (!names.has(base)) return base;
  let number = 2;
  while (names.has(`${base} ${number}`)) number += 1;
  return `${base} ${number}`;
}
