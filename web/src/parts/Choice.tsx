import type { ReactElement } from "react";

/** One of a few, by name: words for each kind there is, so that a new kind fails to compile. */
export function Choice<Kind extends string>({
  label,
  value,
  choices,
  onChoose,
}: {
  label: string;
  value: Kind;
  choices: Readonly<Record<Kind, string>>;
  onChoose: (value: Kind) => void;
}): ReactElement {
  return (
    <label className="flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2">
      <span className="shrink-[1000]">{label}</span>
      <select
        value={value}
        onChange={(event) => onChoose(event.target.value as Kind)}
        className="min-w-0 rounded-[2px] border border-ink bg-panel px-2 py-1 text-ink"
      >
        {(Object.entries(choices) as [Kind, string][]).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
