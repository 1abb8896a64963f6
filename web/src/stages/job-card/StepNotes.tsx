import { useState, type ReactElement } from "react";
import { photoAddress } from "../../api/photos";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";
import type { StepNow } from "./standing";
import { clockWords } from "./words";

/** Words and pictures to a step. */
export function StepNotes({
  step,
  buildId,
  now,
  onNote,
}: {
  step: StepNow;
  buildId: number;
  now: number;
  onNote: (words: string, photos: Blob[]) => void;
}): ReactElement {
  const [words, setWords] = useState("");
  return (
    <section aria-label="Notes" className="flex flex-col gap-2 py-2">
      {step.notes.map((note, at) => (
        <div key={at} className="border-l-2 border-ink pl-2 text-[14px]">
          {note.words && <p>{note.words}</p>}
          <div className="flex flex-wrap gap-1">
            {note.photos.map((token) => (
              <a key={token} href={photoAddress(buildId, token)} target="_blank" rel="noreferrer">
                <img
                  src={photoAddress(buildId, token)}
                  alt={`Photo to ${step.words}`}
                  className="h-16 w-20 border border-ink object-cover"
                />
              </a>
            ))}
          </div>
          <p className="text-[13px] text-ink-2">
            {note.by}, {clockWords(note.at, now)}
          </p>
        </div>
      ))}
      <form
        className="flex items-stretch gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (words.trim() === "") return;
          onNote(words.trim(), []);
          setWords("");
        }}
      >
        <input
          value={words}
          maxLength={2000}
          onChange={(event) => setWords(event.target.value)}
          aria-label="A note to this step"
          placeholder="a note"
          className="min-h-11 min-w-0 flex-1 border border-ink bg-panel px-2 text-[16px]"
        />
        <Button type="submit" disabled={words.trim() === ""} className="min-h-11">
          Keep
        </Button>
        <FileButton
          accept="image/*"
          label="A photo to this step"
          onFile={(file) => onNote("", [file])}
        >
          <span className="flex min-h-9 items-center">
            {step.photo ? "Photo, wanted" : "Photo"}
          </span>
        </FileButton>
      </form>
    </section>
  );
}
