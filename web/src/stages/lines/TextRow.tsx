import type { ReactElement } from "react";

/** A field of a form that is sent as a whole, in a row with its label. */
export function TextRow({
  label,
  value,
  wide = false,
  mayBeEmpty = false,
  onSet,
}: {
  label: string;
  value: string;
  /** For a name. */
  wide?: boolean;
  mayBeEmpty?: boolean;
  onSet: (value: string) => void;
}): ReactElement {
  return (
    <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
      {label}
      <input
        value={value}
        required={!mayBeEmpty}
        maxLength={80}
        autoComplete="off"
        onChange={(event) => onSet(event.target.value)}
        className={`rounded-[2px] border border-ink bg-panel px-2 py-1 text-[16px] text-ink ${wide ? "w-56" : "w-28 text-right font-figure"}`}
      />
    </label>
  );
}
