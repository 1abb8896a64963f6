import { useState, type ReactElement } from "react";
import { jobPage, type Card, type JobStage, type Said } from "../../api/job";
import { useBuildView } from "../../document/BuildContext";
import { Choice } from "../../parts/Choice";
import { allow, isAllowed, type Signal } from "../../parts/signal";
import { Access } from "./Access";
import { Extras } from "./Extras";
import { row } from "./row";
import { dayWords, longWords } from "./words";

const SEALING: Readonly<Record<NonNullable<Said["sealing"]>, string>> = {
  gasket: "gasket or O-ring",
  liquid: "liquid bead, sets an hour",
};
const PLACES = { off: "sump off: drilled, washed", on: "in place: nut passed in" } as const;
const PASSES = { "1": "once round", "2": "twice round", "3": "three times" } as const;

/** When: hands, waits, oil in, done, and what a part that is late costs. */
function Plan({ card }: { card: Card }): ReactElement {
  const { plan } = card;
  const rows = [
    ["Hands", longWords(plan.hands_h)],
    [
      "Waits",
      plan.waits_h === 0
        ? "none left"
        : `${longWords(plan.waits_h)}, ${longWords(Math.max(0, plan.waits_h - plan.idle_h))} of them filled`,
    ],
    ["Begins", dayWords(plan.begins)],
    ["Oil goes in", plan.oil_in ? dayWords(plan.oil_in) : "no oil in this job"],
    ["Done", dayWords(plan.ends)],
  ];
  return (
    <section aria-label="The plan" className="py-2">
      <h3 className="font-figure text-[16px] font-semibold">When</h3>
      <dl>
        {rows.map(([name, words]) => (
          <div key={name} className={row}>
            <dt>{name}</dt>
            <dd className="text-right font-figure text-[15px] text-ink">{words}</dd>
          </div>
        ))}
      </dl>
      {plan.late.map((part) => (
        <p
          key={part.part}
          className="py-1 text-[14px] first-letter:uppercase"
          data-late={part.part}
        >
          <strong>{part.words}</strong> is there on {dayWords(part.there)}: without waiting for it
          all would be done {part.slips_days} {part.slips_days === 1 ? "day" : "days"} sooner.
        </p>
      ))}
    </section>
  );
}

function Switch({ which, words }: { which: Signal; words: string }): ReactElement {
  const [is, setIs] = useState(() => isAllowed(which));
  return (
    <label className={row}>
      {words}
      <input
        type="checkbox"
        checked={is}
        onChange={(event) => {
          allow(which, event.target.checked);
          setIs(event.target.checked);
        }}
        className="size-5 accent-[var(--ink)]"
      />
    </label>
  );
}

/** Days and hours: when it begins, how long a day is. */
function Days({ said, onSay }: { said: Said; onSay: (said: Said) => void }): ReactElement {
  return (
    <>
      <label className={row}>
        Begins on
        <input
          type="date"
          value={said.begins_on ?? ""}
          onChange={(event) => onSay({ ...said, begins_on: event.target.value || null })}
          className="border border-ink bg-panel px-2 py-1 text-ink"
        />
      </label>
      <label className={row}>
        Hours a day
        <input
          key={said.hours_a_day}
          type="number"
          min={1}
          max={16}
          step={0.5}
          defaultValue={said.hours_a_day}
          onBlur={(event) => {
            const hours = Number(event.target.value);
            if (hours >= 0.5 && hours <= 16 && hours !== said.hours_a_day)
              onSay({ ...said, hours_a_day: hours });
          }}
          className="w-20 border border-ink bg-panel px-2 py-1 text-right text-ink"
        />
      </label>
      <label className={row}>
        Weekends are worked
        <input
          type="checkbox"
          checked={said.weekends}
          onChange={(event) => onSay({ ...said, weekends: event.target.checked })}
          className="size-5 accent-[var(--ink)]"
        />
      </label>
    </>
  );
}

/** How the job is done: schools, what is in the way, what else, and when. */
export function JobNumbers({
  stage,
  card,
  onSay,
  fault,
}: {
  stage: JobStage;
  card: Card;
  onSay: (said: Said) => void;
  fault: string | null;
}): ReactElement {
  const { build } = useBuildView();
  const { said } = stage;
  const bottles = stage.parts.filter(({ kind }) => kind === "accumulator");
  const inCabin = said.in_cabin;
  return (
    <div className="px-4 pb-4">
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      <Plan card={card} />
      <Days said={said} onSay={onSay} />
      <Choice
        label="Pan joint"
        value={said.sealing}
        choices={SEALING}
        onChoose={(sealing) => onSay({ ...said, sealing })}
      />
      <Choice
        label="A hole in the sump"
        value={said.sump_in_place ? "on" : "off"}
        choices={PLACES}
        onChoose={(place) => onSay({ ...said, sump_in_place: place === "on" })}
      />
      {card.ignores_in_place && (
        <p className="py-1 text-[14px]">
          The pan comes off for other work: its holes are drilled on the bench.
        </p>
      )}
      {said.sump_in_place && !card.ignores_in_place && (
        <p className="py-1 text-[14px] text-ink-2">
          Half a day less, and more risk: swarf is wiped out by hand, and that is a gate.
        </p>
      )}
      <Choice
        label="Pan bolts"
        value={String(said.passes) as keyof typeof PASSES}
        choices={PASSES}
        onChoose={(passes) => onSay({ ...said, passes: Number(passes) as 1 | 2 | 3 })}
      />
      {bottles.map(({ id, name }) => (
        <label key={id} className={row}>
          <span className="block first-letter:uppercase">{name} is in the cabin</span>
          <input
            type="checkbox"
            checked={inCabin.includes(id)}
            onChange={(event) =>
              onSay({
                ...said,
                in_cabin: event.target.checked
                  ? [...inCabin, id]
                  : inCabin.filter((each) => each !== id),
              })
            }
            className="size-5 accent-[var(--ink)]"
          />
        </label>
      ))}
      <Access said={said} onSay={onSay} />
      <Extras title="Also on this job" {...{ stage, said, onSay }} />
      <section aria-label="This device" className="border-t border-hair py-2">
        <h3 className="font-figure text-[16px] font-semibold">On this device</h3>
        <Switch which="sound" words="A sound when a wait is over" />
        <Switch which="shake" words="Vibrates when a bolt is taken" />
      </section>
      <a className="text-[14px] underline" href={jobPage(build)} download>
        The card to print, PDF
      </a>
    </div>
  );
}
