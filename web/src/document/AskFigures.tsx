import { useId, useState, type ReactElement } from "react";
import { wordsOf } from "../api/client";
import { Button } from "../parts/Button";

/** A figure that is asked; `like` stands in its empty field. */
export interface Asked {
  key: string;
  label: string;
  like?: string;
  note?: string;
  mayBeEmpty?: boolean;
}

/** Figures that are put in together, once all that must be known are typed. */
export function AskFigures({
  name,
  asked,
  words,
  onAsk,
}: {
  name: string;
  asked: readonly Asked[];
  /** On the button. */
  words: string;
  /** What was typed, by key, but for what was left empty; its refusal is said here. */
  onAsk: (typed: Record<string, string>) => Promise<unknown>;
}): ReactElement {
  const id = useId();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const given = Object.fromEntries(Object.entries(typed).filter(([, text]) => text.trim() !== ""));
  const isWhole = asked.every(({ key, mayBeEmpty }) => mayBeEmpty || key in given);

  async function ask(): Promise<void> {
    setFault(null);
    setBusy(true);
    try {
      await onAsk(given);
      setTyped({});
    } catch (refused) {
      setFault(wordsOf(refused));
    } finally {
      setBusy(false);
    }
  }

  return (
    <form
      aria-label={name}
      className="py-1 text-[14px] text-ink-2"
      onSubmit={(event) => {
        event.preventDefault();
        void ask();
      }}
    >
      {asked.map(({ key, label, like, note }) => (
        <div key={key} className="py-0.5">
          <label className="flex items-center justify-between gap-3">
            {label}
            <input
              value={typed[key] ?? ""}
              maxLength={40}
              autoComplete="off"
              placeholder={like}
              aria-describedby={note && `${id}-${key}`}
              onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
              className="w-28 shrink-0 rounded-[2px] border border-ink bg-panel px-2 py-1 text-right font-figure text-[16px] text-ink"
            />
          </label>
          {note && (
            <p id={`${id}-${key}`} className="text-[13px]">
              {note}
            </p>
          )}
        </div>
      ))}
      {fault && (
        <p role="alert" className="text-bad">
          {fault}
        </p>
      )}
      <Button type="submit" className="my-1" disabled={!isWhole || busy}>
        {words}
      </Button>
    </form>
  );
}
