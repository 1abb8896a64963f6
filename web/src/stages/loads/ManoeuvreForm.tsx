import { useState, type ReactElement } from "react";
import { Refusal, wordsOf, type Schemas } from "../../api/client";
import { useKeepManoeuvre, useManoeuvreTrace } from "../../api/logs";
import { Button } from "../../parts/Button";
import { Notice } from "../../parts/Notice";
import { LoadDrawn } from "./LoadDrawn";

type Part = Schemas["ManoeuvreIn"];
type Kind = Part["kind"];

const KINDS: Record<Kind, string> = {
  corner: "a long corner",
  braking: "braking",
  launch: "a launch",
  chicane: "a chicane: one way, the other, and back",
  drift: "a drift: side to side on the throttle",
  skid_pad: "a skid-pad",
  hill: "a hill, or any steady pull",
};
const STRAIGHT: Kind[] = ["braking", "launch", "hill"];
const MOST_PARTS = 12;

/** A part as it is typed. */
interface Typed {
  key: number;
  kind: Kind;
  hand: "left" | "right";
  level: string;
  ramp: string;
  hold: string;
  rpm: string;
}

const FIRST: Typed = {
  key: 0,
  kind: "corner",
  hand: "left",
  level: "1.2",
  ramp: "0.5",
  hold: "4",
  rpm: "6500",
};

const number = (typed: string): number => Number(typed.replace(",", "."));
const partOf = (typed: Typed): Part => ({
  kind: typed.kind,
  hand: typed.hand,
  level_g: number(typed.level),
  ramp_s: number(typed.ramp),
  hold_s: number(typed.hold),
  engine_speed_rpm: number(typed.rpm),
});

const LABELS: Record<string, string> = {
  level_g: "Load",
  ramp_s: "Reached in",
  hold_s: "Held for",
  engine_speed_rpm: "Engine at",
};

/** The server's refusal in the form's own words: "parts.1.hold_s" is what the second is held for. */
export function faultWords(error: Error): string {
  if (!(error instanceof Refusal) || error.problems.length === 0) return wordsOf(error);
  return error.problems
    .map(({ field, message }) => {
      const [, index, name = field] = /^parts\.(\d+)\.(.+)$/.exec(field) ?? [];
      const which = index === undefined ? "" : `${Number(index) + 1}. `;
      return `${which}${LABELS[name] ?? name}: ${message}`;
    })
    .join(". ");
}

function NumberField({
  label,
  unit,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  value: string;
  onChange: (value: string) => void;
}): ReactElement {
  return (
    <label className="text-[14px] text-ink-2">
      {label}
      <span className="flex items-baseline gap-1">
        <input
          value={value}
          inputMode="decimal"
          onChange={(event) => onChange(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.preventDefault(); // the figure is said, not yet all
          }}
          className="mt-1 h-9 w-20 border border-ink bg-panel px-2 font-figure text-[16px] text-ink"
        />
        {unit}
      </span>
    </label>
  );
}

const select = "mt-1 block h-9 max-w-[240px] border border-ink bg-panel px-2 text-ink";

function PartRow({
  typed,
  place,
  onChange,
  onRemove,
}: {
  typed: Typed;
  place: number;
  onChange: (change: Partial<Typed>) => void;
  onRemove: (() => void) | null;
}): ReactElement {
  return (
    <li
      aria-label={`Part ${place}`}
      className="flex flex-wrap items-end gap-x-4 gap-y-2 border-b border-hair py-3"
    >
      <label className="text-[14px] text-ink-2">
        {place === 1 ? "What" : "And then"}
        <select
          value={typed.kind}
          onChange={(event) => onChange({ kind: event.target.value as Kind })}
          className={select}
        >
          {Object.entries(KINDS).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {!STRAIGHT.includes(typed.kind) && (
        <label className="text-[14px] text-ink-2">
          First to the
          <select
            value={typed.hand}
            onChange={(event) =>
              onChange({ hand: event.target.value === "right" ? "right" : "left" })
            }
            className={select}
          >
            <option>left</option>
            <option>right</option>
          </select>
        </label>
      )}
      <NumberField
        label="Load"
        unit="g"
        value={typed.level}
        onChange={(level) => onChange({ level })}
      />
      <NumberField
        label="Reached in"
        unit="s"
        value={typed.ramp}
        onChange={(ramp) => onChange({ ramp })}
      />
      <NumberField
        label="Held for"
        unit="s"
        value={typed.hold}
        onChange={(hold) => onChange({ hold })}
      />
      <NumberField
        label="Engine at"
        unit="rpm"
        value={typed.rpm}
        onChange={(rpm) => onChange({ rpm })}
      />
      {onRemove && (
        <Button look="bare" className="underline" onClick={onRemove}>
          leave out
        </Button>
      )}
    </li>
  );
}

/** Loads without a logger: so many g, that way, for so many seconds, several in a row. */
export function ManoeuvreForm({ onKept }: { onKept: (lapId: number) => void }): ReactElement {
  const keep = useKeepManoeuvre();
  const [rows, setRows] = useState<Typed[]>([FIRST]);
  const [name, setName] = useState("");
  const parts = rows.map(partOf);
  const trace = useManoeuvreTrace(parts);
  const change = (key: number, changed: Partial<Typed>): void =>
    setRows((now) => now.map((row) => (row.key === key ? { ...row, ...changed } : row)));
  const add = (): void =>
    setRows((now) => {
      const last = now.at(-1) ?? FIRST;
      return [...now, { ...last, key: Math.max(...now.map(({ key }) => key)) + 1 }];
    });
  const fault = keep.error ?? trace.error;
  return (
    <section aria-labelledby="manoeuvre" className="max-w-4xl">
      <h2 id="manoeuvre" className="font-figure text-[22px] font-semibold">
        No logger? Say the load
      </h2>
      <p className="mt-1 max-w-2xl text-ink-2">
        Braking is often the highest g, a sustained corner the longest; a launch throws everything
        rearward. Several in a row go over into each other.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ parts, name: name.trim() }, { onSuccess: (lap) => onKept(lap.id) });
        }}
      >
        <ol>
          {rows.map((row, index) => (
            <PartRow
              key={row.key}
              typed={row}
              place={index + 1}
              onChange={(changed) => change(row.key, changed)}
              onRemove={
                rows.length > 1
                  ? () => setRows((now) => now.filter(({ key }) => key !== row.key))
                  : null
              }
            />
          ))}
        </ol>
        <div className="my-3 flex flex-wrap items-end gap-x-5 gap-y-3">
          <Button type="button" className="h-9" disabled={rows.length >= MOST_PARTS} onClick={add}>
            And then…
          </Button>
          <label className="min-w-[220px] flex-1 text-[14px] text-ink-2">
            Called
            <input
              value={name}
              maxLength={120}
              placeholder={trace.data?.name ?? ""}
              onChange={(event) => setName(event.target.value)}
              className="mt-1 block h-9 w-full border border-ink bg-panel px-2 text-ink"
            />
          </label>
          <Button look="main" type="submit" className="h-9" disabled={keep.isPending}>
            Judge by this load
          </Button>
        </div>
      </form>
      {fault && (
        <Notice kind="bad" title={keep.error ? "Not kept" : "Not drawn"}>
          {faultWords(fault)}
        </Notice>
      )}
      {trace.data && <LoadDrawn trace={trace.data} />}
    </section>
  );
}
