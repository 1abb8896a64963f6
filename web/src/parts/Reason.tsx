import { useState, type ReactElement } from "react";
import { Button } from "./Button";
import { Dialog } from "./Dialog";

/** Asks why; what is written stays on the card. */
export function Reason({
  title,
  words,
  least,
  button,
  onSay,
  onClose,
}: {
  title: string;
  words: string;
  /** Letters that a reason has at least. */
  least: number;
  button: string;
  onSay: (why: string) => void;
  onClose: () => void;
}): ReactElement {
  const [why, setWhy] = useState("");
  const isEnough = why.trim().length >= least;
  return (
    <Dialog title={title} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isEnough) return;
          onSay(why.trim());
          onClose();
        }}
      >
        <p>{words}</p>
        <label className="flex flex-col gap-1 text-[14px] text-ink-2">
          Why
          <textarea
            data-first
            value={why}
            maxLength={500}
            rows={3}
            onChange={(event) => setWhy(event.target.value)}
            className="border border-ink bg-paper p-2 text-[16px] text-ink"
          />
        </label>
        <Button look="main" type="submit" disabled={!isEnough} className="min-h-12 text-[16px]">
          {button}
        </Button>
      </form>
    </Dialog>
  );
}
