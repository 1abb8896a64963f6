import { useState, type ReactElement } from "react";
import type { AccessItem, Said } from "../../api/job";
import { Button } from "../../parts/Button";
import { longWords } from "./words";

const KINDS: Readonly<Record<AccessItem["kind"], string>> = {
  pump: "a pump",
  belt: "a belt",
  dipstick_tube: "the dipstick tube",
  bumper: "a bumper",
  mount: "an engine mount",
  crossmember: "a crossmember",
  exhaust: "the exhaust",
  steering: "the steering",
  wheel: "a wheel",
  other: "something else",
};

/** An id that none of the others has. */
const freeId = (items: readonly AccessItem[]): string =>
  `a${1 + Math.max(0, ...items.map(({ id }) => Number(id.slice(1)) || 0))}`;

/** Minutes as typed, as hours; null where they are none. */
function hoursOf(typed: string): number | null {
  const minutes = Number(typed.replace(",", "."));
  return Number.isFinite(minutes) && minutes >= 0 && minutes <= 12_000 ? minutes / 60 : null;
}

/** What is in the way of the job: the car's own, kept from one job to the next. */
export function Access({ said, onSay }: { said: Said; onSay: (said: Said) => void }): ReactElement {
  const items = said.access;
  const [kind, setKind] = useState<AccessItem["kind"]>("bumper");
  const [name, setName] = useState("");
  const [off, setOff] = useState("30");
  const [back, setBack] = useState("30");
  const [isLoose, setLoose] = useState(false);
  const hours = [hoursOf(off), hoursOf(back)] as const;
  const put = (access: AccessItem[]): void => onSay({ ...said, access });
  const input = "min-h-9 border border-ink bg-panel px-2 text-[15px]";
  return (
    <section aria-label="In the way" className="border-t border-hair py-2">
      <h3 className="font-figure text-[16px] font-semibold">What is in the way</h3>
      <p className="text-[14px] text-ink-2">
        {items.length === 0
          ? "Nothing told: a guess of 2 h 30 stands for it where the pan comes off. It often takes longer than the job."
          : "Off in this order, back on in reverse. Kept for this car."}
      </p>
      <ul>
        {items.map((item) => (
          <li
            key={item.id}
            className="flex items-center gap-2 border-b border-hair py-1 text-[15px]"
          >
            <span className="min-w-0 flex-1">
              {item.name}
              {item.how === "loosened" ? ", loosened" : ""}
            </span>
            <span className="font-figure text-ink-2">
              {longWords(item.hours_off)} + {longWords(item.hours_back)}
            </span>
            <Button
              aria-label={`Not in the way: ${item.name}`}
              onClick={() => put(items.filter(({ id }) => id !== item.id))}
            >
              Not in the way
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex flex-wrap items-end gap-2 text-[14px] text-ink-2"
        onSubmit={(event) => {
          event.preventDefault();
          const [hoursOff, hoursBack] = hours;
          if (hoursOff === null || hoursBack === null) return;
          const words = name.trim() || KINDS[kind].replace(/^(a|an|the) /, "");
          put([
            ...items,
            {
              id: freeId(items),
              name: words,
              kind,
              how: isLoose ? "loosened" : "off",
              hours_off: hoursOff,
              hours_back: hoursBack,
            },
          ]);
          setName("");
        }}
      >
        <label className="flex flex-col">
          kind
          <select
            value={kind}
            onChange={(event) => setKind(event.target.value as AccessItem["kind"])}
            className={input}
          >
            {(Object.entries(KINDS) as [AccessItem["kind"], string][]).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="flex min-w-[150px] flex-1 flex-col">
          called
          <input
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            placeholder={KINDS[kind].replace(/^(a|an|the) /, "")}
            className={`${input} w-full`}
          />
        </label>
        <label className="flex flex-col">
          min off
          <input
            value={off}
            inputMode="numeric"
            onChange={(event) => setOff(event.target.value)}
            className={`${input} w-16`}
          />
        </label>
        <label className="flex flex-col">
          min back
          <input
            value={back}
            inputMode="numeric"
            onChange={(event) => setBack(event.target.value)}
            className={`${input} w-16`}
          />
        </label>
        <label className="flex min-h-9 items-center gap-1">
          <input
            type="checkbox"
            checked={isLoose}
            onChange={(event) => setLoose(event.target.checked)}
            className="size-4 accent-[var(--ink)]"
          />
          only loosened
        </label>
        <Button type="submit" disabled={hours.includes(null)} className="min-h-9">
          Is in the way
        </Button>
      </form>
    </section>
  );
}
