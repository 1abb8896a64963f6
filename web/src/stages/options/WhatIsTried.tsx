import { useState, type ReactElement } from "react";
import { wordsOf, type Schemas } from "../../api/client";
import type { Study } from "../../api/options";
import type { Act } from "../../api/queries";
import { ActForm } from "../../document/circuit/FitForms";
import { ALL_FITS, ALL_KINDS, type AnyFitKind } from "../../document/panFits";
import { Button } from "../../parts/Button";
import { Dialog } from "../../parts/Dialog";
import { useSettings } from "../../parts/settings";
import { InUnits } from "../../parts/InUnits";

type Own = Schemas["OwnIn"];
const MOST_OWN = 8;

/** One of the builder's own: its name, and acts one after the other. */
function OwnForm({ onAdd }: { onAdd: (own: Own) => void }): ReactElement {
  const { system } = useSettings();
  const [title, setTitle] = useState("");
  const [acts, setActs] = useState<{ act: Act; words: string }[]>([]);
  const [kind, setKind] = useState<AnyFitKind>("refill");
  return (
    <section aria-label="A remedy of your own" className="border-t border-hair pt-2">
      <h3 className="font-figure text-[16px] font-semibold">One of your own</h3>
      <label className="flex items-center justify-between gap-3 py-1 text-[14px] text-ink-2">
        Its name
        <input
          value={title}
          maxLength={80}
          onChange={(event) => setTitle(event.target.value)}
          className="min-w-0 flex-1 rounded-[2px] border border-ink bg-panel px-2 py-1 text-ink"
        />
      </label>
      <ol className="list-decimal pl-6 text-[14px]">
        {acts.map(({ words }, at) => (
          <li key={at} className="py-0.5">
            {words}{" "}
            <button
              type="button"
              className="underline"
              onClick={() => setActs(acts.filter((_, index) => index !== at))}
            >
              take out
            </button>
          </li>
        ))}
      </ol>
      <label className="flex items-center justify-between gap-3 py-1 text-[14px] text-ink-2">
        A change
        <select
          value={kind}
          onChange={(event) => setKind(event.target.value as AnyFitKind)}
          className="max-w-64 rounded-[2px] border border-ink bg-panel px-2 py-1 text-ink"
        >
          {ALL_KINDS.map((key) => (
            <option key={key} value={key}>
              {ALL_FITS[key].words}
            </option>
          ))}
        </select>
      </label>
      <ActForm
        key={`${kind} ${acts.length}`}
        kind={kind}
        fit={ALL_FITS[kind]}
        verb="Add this change"
        onAct={(act, fit) => setActs([...acts, { act, words: fit.words }])}
      />
      <Button
        className="mt-1"
        disabled={title.trim() === "" || acts.length === 0}
        onClick={() => {
          onAdd({ title: title.trim(), system, acts: acts.map(({ act }) => act) as Own["acts"] });
          setTitle("");
          setActs([]);
        }}
      >
        Put it on the list
      </Button>
    </section>
  );
}

/** What a study tries: remedies switched off, and the builder's own. */
export function WhatIsTried({
  study,
  onTry,
  onClose,
}: {
  study: Study;
  onTry: (wanted: { off: string[]; own: Own[] }) => Promise<unknown>;
  onClose: () => void;
}): ReactElement {
  const [off, setOff] = useState<readonly string[]>(study.off);
  const [own, setOwn] = useState<Own[]>(study.own);
  const [fault, setFault] = useState<string | null>(null);
  const rows = study.options?.rows ?? [];
  const singles = rows.filter(({ group }) => group !== "together" && group !== "own");
  const known = new Set(singles.map(({ key }) => key));
  const all = [
    ...singles.map(({ key, title }) => ({ key, title })),
    ...study.off
      .filter((key) => !known.has(key))
      .map((key) => ({ key, title: study.off_titles[key] ?? key })),
  ];
  return (
    <Dialog title="What is tried" onClose={onClose}>
      <div className="max-h-[70vh] overflow-y-auto p-4">
        <fieldset>
          <legend className="text-[14px] text-ink-2">
            Switched off, a remedy is not run and never named.
          </legend>
          <ul className="columns-1 sm:columns-2">
            {all.map(({ key, title }) => (
              <li key={key}>
                <label className="flex items-start gap-2 py-0.5 text-[14px]">
                  <input
                    type="checkbox"
                    checked={!off.includes(key)}
                    onChange={(event) =>
                      setOff((before) =>
                        event.target.checked
                          ? before.filter((each) => each !== key)
                          : [...before, key],
                      )
                    }
                    className="mt-1 size-4 shrink-0 accent-[var(--ink)]"
                  />
                  <InUnits words={title} />
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
        {own.map((each, at) => (
          <p key={at} className="py-0.5 text-[14px]">
            Your own: <span className="font-semibold">{each.title}</span>{" "}
            <button
              type="button"
              className="underline"
              onClick={() => setOwn(own.filter((_, index) => index !== at))}
            >
              take out
            </button>
          </p>
        ))}
        {own.length < MOST_OWN && <OwnForm onAdd={(added) => setOwn([...own, added])} />}
        {fault && (
          <p role="alert" className="py-1 text-[14px] text-bad">
            {fault}
          </p>
        )}
        <div className="flex gap-2 border-t border-ink pt-3">
          <Button
            look="main"
            onClick={() =>
              void onTry({ off: [...off], own }).then(onClose, (error: unknown) =>
                setFault(wordsOf(error)),
              )
            }
          >
            Try these
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </div>
    </Dialog>
  );
}
