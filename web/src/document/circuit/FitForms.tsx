import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { useBuildView } from "../BuildContext";
import type { Component } from "./circuit";
import type { Act, BuildOut } from "../../api/queries";
import { ALL_FITS, CIRCUIT_KINDS, type AnyFitKind } from "../panFits";
import { actOf, firstOf, isAsked, type Asked, type Filled, type Fit, type PieceKind } from "./fits";

const ROW =
  "flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2";
const BOX = "rounded-[2px] border border-ink bg-panel px-2 py-1 text-[14px] text-ink";

function Ask({
  asked,
  value,
  parts,
  onSet,
}: {
  asked: Asked;
  value: string | boolean;
  parts: readonly Component[];
  onSet: (value: string | boolean) => void;
}): ReactElement {
  if (asked.ask === "switch")
    return (
      <label className={ROW}>
        {asked.label}
        <input
          type="checkbox"
          checked={value === true}
          onChange={(event) => onSet(event.target.checked)}
          className="size-4 accent-[var(--ink)]"
        />
      </label>
    );
  if (asked.ask === "typed")
    return (
      <label className={ROW}>
        {asked.label}
        <input
          value={String(value)}
          placeholder={asked.mayBeEmpty ? "not known" : undefined}
          required={!asked.mayBeEmpty}
          maxLength={40}
          autoComplete="off"
          onChange={(event) => onSet(event.target.value)}
          className={`${BOX} w-28 text-right font-figure text-[16px]`}
        />
      </label>
    );
  const choices =
    asked.ask === "choice"
      ? asked.choices
      : parts
          .filter(({ kind }) => asked.kinds.includes(kind))
          .map(({ id, name }) => [id, name] as const);
  return (
    <label className={`${ROW} flex-wrap`}>
      {asked.label}
      <select
        value={String(value)}
        onChange={(event) => onSet(event.target.value)}
        className={`${BOX} ml-auto max-w-full`}
      >
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

type ClassRules = BuildOut["document"]["car"]["class_rules"];

/** Whether the class does not allow an act; a pump's drive goes with its dry sump. */
function isRuledOut(kind: AnyFitKind | PieceKind, rules: ClassRules): boolean {
  if (kind === "refill" || kind === "put_in_line" || kind === "join_ports") return false;
  return rules[kind === "fit_drive" ? "go_dry" : kind] === "not_allowed";
}

/** The form of one act: what it asks, its schools and its caution, and why it was refused. */
export function ActForm({
  kind,
  verb,
  fit,
  onAct,
}: {
  kind: AnyFitKind | PieceKind;
  /** What is asked. */
  fit: Fit;
  /** On its button. */
  verb: string;
  /** Does something with the act; a refusal is said here. */
  onAct: (act: Act, fit: Fit) => Promise<void> | void;
}): ReactElement {
  const { system } = useSettings();
  const { build } = useBuildView();
  const { components } = build.document.circuit;
  const isForbidden = isRuledOut(kind, build.document.car.class_rules);
  const [filled, setFilled] = useState<Filled>(() => firstOf(fit, system, components));
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const isLacking = fit.asked.some(({ ask, key }) => ask === "component" && filled[key] === "");

  async function doIt(): Promise<void> {
    setFault(null);
    setBusy(true);
    try {
      await onAct(actOf(kind, fit, filled), fit);
    } catch (error) {
      const labelOf = (field: string) =>
        fit.asked.find(({ key }) => key === field.split(".").at(-1))?.label;
      setFault(wordsOf(error, labelOf));
    } finally {
      setBusy(false);
    }
  }

  return (
    <form
      aria-label={fit.words}
      className="border-l-2 border-ink pb-3 pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        void doIt();
      }}
    >
      <p className="py-1 text-[13px] text-ink-2">{fit.note}</p>
      {fit.asked
        .filter((asked) => isAsked(asked, filled))
        .map((asked) => (
          <Ask
            key={asked.key}
            asked={asked}
            value={filled[asked.key] ?? ""}
            parts={components}
            onSet={(value) => setFilled((before) => ({ ...before, [asked.key]: value }))}
          />
        ))}
      {isForbidden && (
        <p className="flex gap-2 py-1 text-[14px] font-semibold">
          <Mark state="bad" /> Your class does not allow it, as you said on Car.
        </p>
      )}
      {isLacking && <p className="py-1 text-[14px]">There is none in this circuit yet.</p>}
      {fit.caution && <p className="py-1 text-[13px]">{fit.caution}</p>}
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      <Button look="main" type="submit" className="mt-2" disabled={busy || isLacking}>
        {verb}
      </Button>
    </form>
  );
}

/** The form of one act, done to the build at once. */
export function FitForm({
  kind,
  fit = ALL_FITS[kind],
  onDone,
}: {
  kind: AnyFitKind;
  /** What is asked, where a screen knows better what to show first. */
  fit?: Fit | undefined;
  onDone: (words: string) => void;
}): ReactElement {
  const { system } = useSettings();
  const { edit } = useBuildView();
  return (
    <ActForm
      kind={kind}
      verb="Fit it"
      fit={fit}
      onAct={async (act, fit) => {
        try {
          const done = await edit.mutateAsync({ kind: "act", act, system });
          onDone(done.undo ?? fit.words);
        } finally {
          edit.reset();
        }
      }}
    />
  );
}

/** What can be fitted, each with its form; whole sets, one step of undo each. */
export function FitForms({
  kinds = CIRCUIT_KINDS,
  title = "Fit or change something",
  isOpen = false,
}: {
  kinds?: readonly AnyFitKind[];
  title?: string;
  /** Unfolded from the first. */
  isOpen?: boolean;
}): ReactElement {
  const [open, setOpen] = useState<AnyFitKind | null>(null);
  const [done, setDone] = useState<string | null>(null);
  return (
    <details className="border-b border-hair" open={isOpen}>
      <summary className="py-1.5 text-[14px] font-medium">{title}</summary>
      {done && (
        <p role="status" className="py-1 text-[14px]">
          Done: <InUnits words={done} />.
        </p>
      )}
      <ul className="pb-2">
        {kinds.map((kind) => (
          <li key={kind}>
            <button
              type="button"
              aria-expanded={open === kind}
              className="w-full py-1 text-left text-[14px] underline decoration-dotted underline-offset-4"
              onClick={() => {
                setDone(null);
                setOpen(open === kind ? null : kind);
              }}
            >
              {ALL_FITS[kind].words}
            </button>
            {open === kind && (
              <FitForm
                kind={kind}
                onDone={(words) => {
                  setOpen(null);
                  setDone(words);
                }}
              />
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
