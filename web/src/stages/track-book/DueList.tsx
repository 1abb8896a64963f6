import { dayWords, today } from "../../parts/days";
import { useState, type ReactElement } from "react";
import type { Booked, Due } from "../../api/book";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { dueWords, everyWords, MARKS } from "./words";

type Found = "sound" | "watch" | "bad";

function DoneForm({
  due,
  onWrite,
  onLeave,
}: {
  due: Due;
  onWrite: (entry: Booked) => void;
  onLeave: () => void;
}): ReactElement {
  const [found, setFound] = useState<Found>("sound");
  const [words, setWords] = useState("");
  const [hours, setHours] = useState(String(due.every_hours ?? ""));
  const write = (how: "looked_at" | "renewed"): void => {
    onWrite({ kind: "item_done", item: due.id, on: today(), how, found, words, photos: [] });
    onLeave();
  };
  const every = Number(hours.replace(",", "."));
  const input = "min-h-11 border border-ink bg-panel px-2 text-[16px]";
  return (
    <div className="flex flex-col gap-2 py-2">
      {due.done.map(({ done, by, hours_then: then }, at) => (
        <p key={at} className="text-[14px] text-ink-2">
          {dayWords(done.on)}, after {then} h: {done.how === "renewed" ? "renewed" : "looked at"},{" "}
          {done.found}
          {done.words ? `, ${done.words}` : ""}; {by}
        </p>
      ))}
      <div className="flex flex-wrap gap-2">
        <select
          aria-label={`Found: ${due.name}`}
          value={found}
          onChange={(event) => setFound(event.target.value as Found)}
          className={input}
        >
          <option value="sound">sound</option>
          <option value="watch">to be watched</option>
          <option value="bad">bad</option>
        </select>
        <input
          aria-label={`Words to ${due.name}`}
          placeholder="what was found"
          value={words}
          maxLength={2000}
          onChange={(event) => setWords(event.target.value)}
          className={`${input} min-w-[120px] flex-1`}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button className="min-h-11" onClick={() => write("looked_at")}>
          Looked at
        </Button>
        <Button look="main" className="min-h-11" onClick={() => write("renewed")}>
          Renewed
        </Button>
        <input
          aria-label={`Every so many hours: ${due.name}`}
          value={hours}
          inputMode="decimal"
          placeholder="every h"
          onChange={(event) => setHours(event.target.value)}
          className={`${input} w-24`}
        />
        <Button
          className="min-h-11"
          disabled={!(every > 0 && every <= 10_000)}
          onClick={() => {
            onWrite({
              kind: "item",
              id: due.id,
              name: due.name,
              every_hours: every,
              every_days: due.every_days,
              each_session: false,
            });
            onLeave();
          }}
        >
          Hours of my own
        </Button>
        <button
          type="button"
          className="min-h-11 text-[14px] underline"
          onClick={() => {
            onWrite({ kind: "item_dropped", id: due.id });
            onLeave();
          }}
        >
          not on this car
        </button>
      </div>
    </div>
  );
}

/** What comes round, the most pressing first: by hours run and by the calendar. */
export function DueList({
  due,
  hours,
  onWrite,
}: {
  due: readonly Due[];
  hours: number;
  onWrite: (entry: Booked) => void;
}): ReactElement {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <section aria-label="What is due" className="px-4 py-3">
      <h2 className="flex items-baseline justify-between font-figure text-[20px] font-semibold">
        What is due
        <span className="text-[14px] font-medium text-ink-2">{hours} h run in this book</span>
      </h2>
      <ul>
        {due.map((each) => (
          <li key={each.id} className="border-b border-hair" data-due={each.id}>
            <button
              type="button"
              aria-expanded={open === each.id}
              onClick={() => setOpen(open === each.id ? null : each.id)}
              className="flex min-h-12 w-full items-center gap-2 text-left"
            >
              <Mark state={MARKS[each.state]} />
              <span className="min-w-0 flex-1 text-[15px]">
                {each.name}
                <span className="block text-[13px] text-ink-2">{everyWords(each)}</span>
              </span>
              <span
                className={`font-figure text-[15px] font-semibold whitespace-nowrap ${each.state === "overdue" ? "text-bad" : ""}`}
              >
                {dueWords(each)}
              </span>
            </button>
            {open === each.id && (
              <DoneForm due={each} onWrite={onWrite} onLeave={() => setOpen(null)} />
            )}
          </li>
        ))}
      </ul>
      <p className="pt-2 text-[13px] text-ink-2">
        Intervals are guesses until you type your own. Local codes and class rules decide.
      </p>
    </section>
  );
}
