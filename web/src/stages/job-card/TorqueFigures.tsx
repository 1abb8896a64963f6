import { useState, type ReactElement } from "react";
import type { Said } from "../../api/job";
import { Button } from "../../parts/Button";
import type { StepNow } from "./standing";
import { torqueOf } from "./words";

/** What is said of a job with a step's own torque, or without it. */
export function withTorque(said: Said, step: StepNow, newtonMetres: number | null): Said {
  const key = step.id.split(":")[0] ?? step.id;
  const others = Object.entries(said.torque_nm).filter(([name]) => name !== key);
  const own = newtonMetres === null ? [] : [[key, newtonMetres] as const];
  return { ...said, torque_nm: Object.fromEntries([...others, ...own]) };
}

function Typed({ onType }: { onType: (newtonMetres: number) => void }): ReactElement {
  const [typed, setTyped] = useState("");
  const found = torqueOf(typed);
  return (
    <form
      className="flex items-center gap-2 pb-1 text-[14px]"
      onSubmit={(event) => {
        event.preventDefault();
        if (found !== null) onType(found);
      }}
    >
      <label className="flex items-center gap-2 text-ink-2">
        The maker&apos;s
        <input
          value={typed}
          placeholder="9 N·m, 80 lbf in"
          onChange={(event) => setTyped(event.target.value)}
          className="min-h-9 w-36 border border-ink bg-panel px-2 text-[15px] text-ink"
        />
      </label>
      <Button type="submit" disabled={found === null} className="min-h-9">
        Use it
      </Button>
      {typed !== "" && found === null && (
        <span role="alert" className="text-bad">
          a figure with N·m, lbf in or lbf ft
        </span>
      )}
    </form>
  );
}

/** The torque, large, and the same in the other units; the maker's own over it. */
export function TorqueFigures({
  step,
  onType,
}: {
  step: StepNow;
  onType: (newtonMetres: number | null) => void;
}): ReactElement | null {
  const [isOpen, setOpen] = useState(false);
  const { torque } = step;
  if (!torque) return null;
  return (
    <>
      <div className="flex items-end justify-between gap-3 py-2" data-torque>
        <p className="font-figure text-[48px] leading-none font-semibold tabular-nums">
          {torque.newton_metres.toFixed(1)}
          <span className="ml-2 text-[22px] font-medium">N·m</span>
        </p>
        <p className="font-figure text-[16px] text-ink-2">
          <span className="whitespace-nowrap">{torque.lbf_in.toFixed(0)} lbf·in</span>
          <br />
          <span className="whitespace-nowrap">{torque.lbf_ft.toFixed(1)} lbf·ft</span>
        </p>
        <p className="text-right text-[13px] text-ink-2">
          {torque.left_handed && <strong className="text-ink">left-hand thread </strong>}
          {torque.source}.{" "}
          <button
            type="button"
            className="underline"
            onClick={() => (torque.is_own ? onType(null) : setOpen(!isOpen))}
          >
            {torque.is_own ? "the usual figure again" : "another figure"}
          </button>
        </p>
      </div>
      {isOpen && !torque.is_own && <Typed onType={onType} />}
    </>
  );
}
