import { useId, useState, type KeyboardEvent, type ReactElement } from "react";
import { Refusal, wordsOf } from "../api/client";
import { nudged } from "./nudge";
import { useSettings } from "./settings";
import { exactlyShown } from "./units";

/**
 * One figure, edited in place. What is typed is held apart from the stored number: it goes to the
 * server as typed ("3/8 in"), and stays in the field when it is refused.
 */
export function EditFigure({
  label,
  field,
  value,
  note,
  narrow = false,
  onType,
  onClear,
}: {
  label: string;
  field: string;
  /** Null where it is not known. */
  value: number | null;
  note?: string;
  /** For two in a row. */
  narrow?: boolean;
  onType: (typed: string) => Promise<unknown>;
  /** Says that it is not known after all: of a figure that may be. */
  onClear?: false | (() => void);
}): ReactElement {
  const { system, units } = useSettings();
  const { unit, figure } = exactlyShown(units, field, system, value ?? 0);
  const shown = { unit, figure: value === null ? "" : figure };
  const base = `${value} ${system}`;
  const [draft, setDraft] = useState<{ base: string; text: string; fault: string | null }>();
  const [busy, setBusy] = useState(false);
  const id = useId();
  // a draft belongs to the stored number it was typed over; once that changes it is spent
  const typed = draft?.base === base ? draft.text : null;
  const fault = draft?.base === base ? draft.fault : null;

  const setTyped = (text: string | null): void =>
    setDraft(text === null ? undefined : { base, text, fault: null });

  async function commit(text: string): Promise<void> {
    if (text.trim() === "" || text.trim() === shown.figure) {
      setTyped(null);
      if (text.trim() === "" && value !== null && onClear) onClear();
      return;
    }
    setBusy(true);
    try {
      await onType(text);
      setTyped(null);
    } catch (error) {
      const fault =
        error instanceof Refusal
          ? (error.about(field) ?? error.problems[0]?.message ?? error.message)
          : wordsOf(error);
      setDraft({ base, text, fault });
    } finally {
      setBusy(false);
    }
  }

  function onKey(event: KeyboardEvent<HTMLInputElement>): void {
    if (event.key === "Enter") void commit(event.currentTarget.value);
    if (event.key === "Escape") setTyped(null);
    if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      const next = nudged(event.currentTarget.value, event.key === "ArrowUp" ? 1 : -1);
      if (next === null) return;
      event.preventDefault();
      setTyped(next);
    }
  }

  return (
    <div className="border-b border-hair py-1">
      <div className="flex items-baseline justify-between gap-3">
        <label htmlFor={id} className="text-[14px] text-ink-2">
          {label}
        </label>
        <span className="flex shrink-0 items-baseline gap-1">
          <input
            id={id}
            value={typed ?? shown.figure}
            aria-invalid={fault !== null}
            aria-describedby={fault ? `${id}-fault` : note ? `${id}-note` : undefined}
            placeholder={value === null ? "not known" : undefined}
            autoComplete="off"
            inputMode="text"
            readOnly={busy}
            aria-busy={busy}
            data-untouched={typed === null || undefined}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={onKey}
            onFocus={(event) => event.target.select()}
            onBlur={(event) => {
              if (typed !== null) void commit(event.target.value);
            }}
            className={`${narrow ? "w-12" : "w-24"} border-b border-dotted bg-transparent text-right font-figure text-[18px] font-semibold placeholder:text-[14px] placeholder:font-normal placeholder:text-ink-2 ${
              fault ? "border-bad text-bad" : "border-ink"
            }`}
          />
          <span className={`${narrow ? "w-5" : "w-8"} font-figure text-[14px] text-ink-2`}>
            {shown.unit}
          </span>
        </span>
      </div>
      {note && !fault && (
        <p id={`${id}-note`} className="text-[13px] text-ink-2">
          {note}
        </p>
      )}
      {fault && (
        <p id={`${id}-fault`} role="alert" className="mt-1 text-[13px] text-bad">
          {fault}
        </p>
      )}
    </div>
  );
}
