import { useState, type ReactElement } from "react";
import type { Entry, JobStage } from "../../api/job";
import { Button } from "../../parts/Button";
import { Dialog } from "../../parts/Dialog";

const WEEK = 7;

/** A part is bad: what was found, and how long it is away. */
export function FoundBad({
  stage,
  part,
  onEnter,
  onClose,
}: {
  stage: JobStage;
  part: string;
  onEnter: (entry: Entry, photos: Blob[]) => void;
  onClose: () => void;
}): ReactElement {
  const [which, setWhich] = useState(part || "pan");
  const [words, setWords] = useState("");
  const [days, setDays] = useState(WEEK);
  const [photo, setPhoto] = useState<File | null>(null);
  const field = "flex flex-col gap-1 text-[14px] text-ink-2";
  const input = "min-h-11 border border-ink bg-paper px-2 text-[16px] text-ink";
  return (
    <Dialog title="A part is bad" onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim().length < 3) return;
          const bad = {
            kind: "found_bad",
            part: which,
            words: words.trim(),
            wait_days: days,
          } as const;
          onEnter({ ...bad, photos: [] }, photo ? [photo] : []);
          onClose();
        }}
      >
        <p>
          Its steps stop. The card gets &quot;send back&quot; with its wait, and the plan moves by
          it. New parts get the same look as old ones.
        </p>
        <label className={field}>
          Part
          <select
            value={which}
            onChange={(event) => setWhich(event.target.value)}
            className={input}
          >
            {stage.parts.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className={field}>
          What was found
          <input
            data-first
            value={words}
            maxLength={500}
            onChange={(event) => setWords(event.target.value)}
            className={input}
            placeholder="a crack from bolt hole 4 to the rail"
          />
        </label>
        <label className={field}>
          Days until it is back
          <input
            type="number"
            inputMode="numeric"
            min={0}
            max={365}
            value={days}
            onChange={(event) => setDays(Math.min(365, Math.max(0, Number(event.target.value))))}
            className={input}
          />
        </label>
        <label className={field}>
          Photo
          <input
            type="file"
            accept="image/*"
            onChange={(event) => setPhoto(event.target.files?.[0] ?? null)}
          />
        </label>
        <Button
          look="bad"
          type="submit"
          disabled={words.trim().length < 3}
          className="min-h-12 text-[16px]"
        >
          It is bad: stop its steps
        </Button>
      </form>
    </Dialog>
  );
}
