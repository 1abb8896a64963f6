import { useState, type ReactElement } from "react";
import { Refusal, wordsOf } from "../../api/client";
import { useKeepManoeuvre } from "../../api/logs";
import { Button } from "../../parts/Button";
import { Notice } from "../../parts/Notice";

type Kind = Parameters<ReturnType<typeof useKeepManoeuvre>["mutate"]>[0]["kind"];

const KINDS: [Kind, string][] = [
  ["corner", "a long corner"],
  ["braking", "braking"],
  ["launch", "a launch"],
  ["chicane", "a chicane: one way, the other, and back"],
  ["drift", "a drift: side to side on the throttle"],
  ["skid_pad", "a skid-pad"],
  ["hill", "a hill, or any steady pull"],
];
const STRAIGHT: Kind[] = ["braking", "launch", "hill"];

function NumberField({
  label,
  unit,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  value: string;
  onChange: (value: string) => void;
}): ReactElement {
  return (
    <label className="text-[14px] text-ink-2">
      {label}
      <span className="flex items-baseline gap-1">
        <input
          value={value}
          inputMode="decimal"
          onChange={(event) => onChange(event.target.value)}
          className="mt-1 h-9 w-20 border border-ink bg-panel px-2 font-figure text-[16px] text-ink"
        />
        {unit}
      </span>
    </label>
  );
}

const LABELS: Record<string, string> = {
  level_g: "Load",
  ramp_s: "Reached in",
  hold_s: "Held for",
  engine_speed_rpm: "Engine at",
};

/** The server's refusal in the form's own words. */
function faultWords(error: Error): string {
  if (!(error instanceof Refusal) || error.problems.length === 0) return wordsOf(error);
  return error.problems
    .map(({ field, message }) => `${LABELS[field] ?? field}: ${message}`)
    .join(". ");
}

const number = (typed: string): number => Number(typed.replace(",", "."));

/** Loads without a logger: so many g, that way, for so many seconds. */
export function ManoeuvreForm({ onKept }: { onKept: (lapId: number) => void }): ReactElement {
  const keep = useKeepManoeuvre();
  const [kind, setKind] = useState<Kind>("corner");
  const [hand, setHand] = useState<"left" | "right">("left");
  const [level, setLevel] = useState("1.2");
  const [ramp, setRamp] = useState("0.5");
  const [hold, setHold] = useState("4");
  const [rpm, setRpm] = useState("6500");
  return (
    <section aria-labelledby="manoeuvre" className="max-w-3xl">
      <h2 id="manoeuvre" className="font-figure text-[22px] font-semibold">
        No logger? Say the load
      </h2>
      <p className="mt-1 max-w-2xl text-ink-2">
        Braking is often the highest g, a sustained corner the longest; a launch throws everything
        rearward.
      </p>
      <form
        className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(
            {
              kind,
              hand,
              level_g: number(level),
              ramp_s: number(ramp),
              hold_s: number(hold),
              engine_speed_rpm: number(rpm),
            },
            { onSuccess: (lap) => onKept(lap.id) },
          );
        }}
      >
        <label className="text-[14px] text-ink-2">
          What
          <select
            value={kind}
            onChange={(event) => {
              const found = KINDS.find(([key]) => key === event.target.value);
              if (found) setKind(found[0]);
            }}
            className="mt-1 block h-9 border border-ink bg-panel px-2 text-ink"
          >
            {KINDS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {!STRAIGHT.includes(kind) && (
          <label className="text-[14px] text-ink-2">
            First to the
            <select
              value={hand}
              onChange={(event) => setHand(event.target.value === "right" ? "right" : "left")}
              className="mt-1 block h-9 border border-ink bg-panel px-2 text-ink"
            >
              <option>left</option>
              <option>right</option>
            </select>
          </label>
        )}
        <NumberField label="Load" unit="g" value={level} onChange={setLevel} />
        <NumberField label="Reached in" unit="s" value={ramp} onChange={setRamp} />
        <NumberField label="Held for" unit="s" value={hold} onChange={setHold} />
        <NumberField label="Engine at" unit="rpm" value={rpm} onChange={setRpm} />
        <Button look="main" type="submit" className="h-9" disabled={keep.isPending}>
          Judge by this load
        </Button>
      </form>
      {keep.error && (
        <div className="mt-3">
          <Notice kind="bad" title="Not kept">
            {faultWords(keep.error)}
          </Notice>
        </div>
      )}
    </section>
  );
}
