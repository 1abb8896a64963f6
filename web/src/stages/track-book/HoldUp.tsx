import { useState, type ReactElement } from "react";
import type { Book, Booked } from "../../api/book";
import { wordsOf } from "../../api/client";
import { useTakeHeldUp } from "../../api/learning";
import { useBuildView } from "../../document/BuildContext";
import { newId } from "../../offline/queue";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { volumeAs } from "../../parts/units";
import { sourceOf, trialOf, type Row } from "./holdUpTyped";
import { dayWords } from "../../parts/days";

const STEPS = [
  "Sight tube or dipstick window on the sump, beside a rule; engine at its running heat, car level on stands.",
  "Idle until the level is steady, read it; then 2000, 3000 and on, each held for half a minute.",
  "Switch off, read the level at once and every ten seconds; the last one after a quarter of an hour.",
];
const CAUTIONS = [
  "Two independent supports under the car. Nobody in line with belts, fan or driveline; wheels off the ground, out of gear.",
  "Exhaust gas kills: outdoors or drawn off. Hot oil burns: a tube that cannot slip off, a drip tray, no flame.",
  "Never a speed that the maker does not allow without load; stop if pressure falls.",
];

const input = "min-h-11 w-full min-w-0 border border-ink bg-panel px-2 text-[16px] text-ink";

/** Rows of two figures each; the last one is always free. */
function Pairs({
  heads,
  rows,
  onRows,
}: {
  heads: readonly [string, string];
  rows: readonly Row[];
  onRows: (rows: Row[]) => void;
}): ReactElement {
  const put = (at: number, which: 0 | 1, value: string): void => {
    const next = rows.map((row, n): Row =>
      n === at ? (which === 0 ? [value, row[1]] : [row[0], value]) : [row[0], row[1]],
    );
    const last = next.at(-1);
    onRows(last && (last[0] !== "" || last[1] !== "") ? [...next, ["", ""]] : next);
  };
  return (
    <div className="grid grid-cols-2 gap-2">
      {rows.map((row, at) =>
        ([0, 1] as const).map((which) => (
          <label key={`${at} ${which}`} className="flex flex-col text-[13px] text-ink-2">
            {at === 0 ? (
              heads[which]
            ) : (
              <span className="sr-only">{`${heads[which]}, ${at + 1}`}</span>
            )}
            <input
              value={row[which]}
              inputMode="decimal"
              onChange={(event) => put(at, which, event.target.value)}
              className={input}
            />
          </label>
        )),
      )}
    </div>
  );
}

function Trial({ trial }: { trial: Book["hold_ups"][number] }): ReactElement {
  const { units, system } = useSettings();
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  return (
    <div data-trial={trial.trial.id} className="py-1">
      <p className="text-[15px]">
        <strong className="font-semibold">{dayWords(trial.trial.on)}:</strong> {trial.words}
        {trial.returns_s === null
          ? ""
          : ` All but a third of it is back in ${trial.returns_s.toFixed(0)} s.`}
      </p>
      <table className="text-[15px]">
        <thead>
          <tr className="text-[13px] text-ink-2">
            {["rpm", "held up", "as forecast", "more"].map((words) => (
              <th key={words} scope="col" className="px-2 text-right font-normal first:pl-0">
                {words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="font-figure">
          {trial.at.map((row) => (
            <tr key={row.rpm} className="border-t border-hair">
              <th scope="row" className="pr-2 text-right font-semibold">
                {row.rpm.toFixed(0)}
              </th>
              <td className="px-2 text-right">
                {litres(row.held_l)} ± {litres(row.give_l)}
              </td>
              <td className="px-2 text-right">{litres(row.thought_l)}</td>
              <td className="px-2 text-right">{litres(row.more_l)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <TakeIt trial={trial} />
    </div>
  );
}

/** Puts what a trial told in the guess's place, once it is wanted. */
function TakeIt({ trial }: { trial: Book["hold_ups"][number] }): ReactElement {
  const { build } = useBuildView();
  const { units, system } = useSettings();
  const take = useTakeHeldUp(build);
  const known = build.document.learned?.up_top_more_l;
  if (known?.source === sourceOf(trial.trial.on))
    return <p className="text-[14px] text-ink-2">Forecasts rest on it.</p>;
  const [more, give] = [trial.more_l, trial.give_l].map((litres) =>
    volumeAs(units, system, litres, 1),
  );
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-[15px]">
      <span>
        Over all speeds {more?.figure} ± {give?.figure} {more?.unit} more than thought.
      </span>
      <button
        type="button"
        className="min-h-9 underline"
        disabled={take.isPending}
        onClick={() => take.mutate(trial.trial.id)}
      >
        Let forecasts rest on it
      </button>
      {take.error && (
        <span role="alert" className="text-bad">
          {wordsOf(take.error)}
        </span>
      )}
    </p>
  );
}

function Form({
  onWrite,
  onLeave,
}: {
  onWrite: (entry: Booked) => void;
  onLeave: () => void;
}): ReactElement {
  const [standing, setStanding] = useState("");
  const [running, setRunning] = useState<readonly Row[]>([["", ""]]);
  const [after, setAfter] = useState<readonly Row[]>([["", ""]]);
  const made = trialOf(`h${newId().replaceAll("-", "").slice(0, 12)}`, standing, running, after);
  return (
    <form
      aria-label="A hold-up trial"
      className="flex flex-col gap-2 border border-ink bg-panel p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (typeof made === "string") return;
        onWrite(made);
        onLeave();
      }}
    >
      <ol className="list-decimal pl-5 text-[15px]">
        {STEPS.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ol>
      <ul className="flex flex-col gap-1 border border-ink p-2 text-[14px]">
        {CAUTIONS.map((words) => (
          <li key={words} className="flex gap-2">
            <Mark state="caution" />
            <span>
              <strong className="font-semibold">Caution.</strong> {words}
            </span>
          </li>
        ))}
      </ul>
      <label className="flex flex-col text-[13px] text-ink-2">
        Level with all of it back, mm
        <input
          value={standing}
          inputMode="decimal"
          onChange={(event) => setStanding(event.target.value)}
          className={input}
        />
      </label>
      <Pairs heads={["Engine at, rpm", "Level, mm"]} rows={running} onRows={setRunning} />
      <Pairs heads={["Off for, s", "Level then, mm"]} rows={after} onRows={setAfter} />
      <div className="flex gap-2">
        <Button className="whitespace-nowrap" onClick={onLeave}>
          Leave it
        </Button>
        <Button look="main" type="submit" disabled={typeof made === "string"}>
          {typeof made === "string" ? made : "Write the trial down"}
        </Button>
      </div>
    </form>
  );
}

/** Oil that is held up, measured: a guided trial, and what it told. */
export function HoldUp({
  trials,
  onWrite,
}: {
  trials: Book["hold_ups"];
  onWrite: (entry: Booked) => void;
}): ReactElement {
  const [isOpen, setOpen] = useState(false);
  return (
    <section aria-label="Oil that is held up" className="border-t border-hair px-4 py-2 lg:px-6">
      <h2 className="font-figure text-[18px] font-semibold">Oil that is held up</h2>
      {trials.map((trial) => (
        <Trial key={trial.trial.id} trial={trial} />
      ))}
      {isOpen ? (
        <Form onWrite={onWrite} onLeave={() => setOpen(false)} />
      ) : (
        <p className="flex flex-wrap items-center gap-3 text-[15px]">
          {trials.length === 0 && (
            <span>Nobody measured it on this car: the forecast&apos;s figure is a guess.</span>
          )}
          <button type="button" className="min-h-9 underline" onClick={() => setOpen(true)}>
            {trials.length === 0 ? "Measure it" : "Measure it again"}
          </button>
        </p>
      )}
    </section>
  );
}
