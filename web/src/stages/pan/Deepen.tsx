import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { Act, BuildDocument, BuildOut } from "../../api/queries";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import { exactlyShown } from "../../parts/units";
import type { Replace, Type } from "../../document/ZoneNumbers";

/** What a spacer that is fitted asks of the other parts. */
function Fitted({
  document,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  onType: Type;
  onReplace: Replace;
}): ReactElement | null {
  const { system, units } = useSettings();
  const { spacer_mm: spacer, bolt_length_mm: bolt } = document.pan;
  const length = (mm: number): string => {
    const { figure, unit } = exactlyShown(units, "pan.spacer_mm", system, mm);
    return `${figure} ${unit}`;
  };
  return (
    <>
      {spacer > 0 && (
        <p className="py-1 text-[14px]">
          Spacer of {length(spacer)} fitted: the pickup needs one as thick, baffles come up from the
          floor by as much, every bolt and stud is longer by it
          {bolt != null && `: ${length(bolt)} becomes ${length(bolt + spacer)}`}.
        </p>
      )}
      <EditFigure
        label="Pan bolts without a spacer"
        field="pan.bolt_length_mm"
        value={bolt ?? null}
        onType={(typed) => onType(["pan.bolt_length_mm"], typed)}
        onClear={() =>
          onReplace(
            { ...document, pan: { ...document.pan, bolt_length_mm: null } },
            "length of the pan bolts: not known",
          )
        }
      />
    </>
  );
}

/** Spacer or deeper sump as one act: pan, pickup, baffles and bolts go together. */
export function Deepen({
  build,
  onAct,
  onType,
  onReplace,
}: {
  build: BuildOut;
  onAct: (act: Act) => Promise<BuildOut>;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const { system } = useSettings();
  const { document } = build;
  const [typed, setTyped] = useState(system === "metric" ? "6 mm" : "1/4 in");
  const [zones, setZones] = useState<string[] | null>(null);
  const [said, setSaid] = useState<{ words: string; bad: boolean } | null>(null);

  async function lower(): Promise<void> {
    setSaid(null);
    try {
      const done = await onAct(
        zones === null ? { kind: "spacer", by_mm: typed } : { kind: "deepen", by_mm: typed, zones },
      );
      setSaid({ words: done.undo ?? "Done.", bad: false });
    } catch (error) {
      setSaid({ words: wordsOf(error), bad: true });
    }
  }

  return (
    <section aria-labelledby="deepen" className="border-t border-ink px-4 py-3">
      <h2 id="deepen" className="font-figure text-[18px] font-semibold">
        Spacer or deeper sump
      </h2>
      <form
        className="pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          void lower();
        }}
      >
        <fieldset className="relative flex flex-wrap gap-x-4 gap-y-1 text-[14px]">
          <legend className="sr-only">What goes down</legend>
          <label className="flex items-center gap-2">
            <input
              type="radio"
              name="deepen"
              checked={zones === null}
              onChange={() => setZones(null)}
              className="accent-[var(--ink)]"
            />
            all of the pan, by a spacer
          </label>
          <label className="flex items-center gap-2">
            <input
              type="radio"
              name="deepen"
              checked={zones !== null}
              onChange={() => setZones(document.pan.zones.slice(0, 1).map(({ id }) => id))}
              className="accent-[var(--ink)]"
            />
            only
          </label>
          {zones !== null &&
            document.pan.zones.map(({ id, name }) => (
              <label key={id} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  checked={zones.includes(id)}
                  onChange={(event) =>
                    setZones(
                      event.target.checked ? [...zones, id] : zones.filter((each) => each !== id),
                    )
                  }
                  className="accent-[var(--ink)]"
                />
                {name}
              </label>
            ))}
        </fieldset>
        <div className="mt-2 flex items-center gap-2">
          <label className="flex items-center gap-2 text-[14px]">
            by
            <input
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              className="h-8 w-24 border border-ink bg-paper px-2 font-figure text-[16px]"
            />
          </label>
          <Button look="main" type="submit" disabled={zones?.length === 0}>
            Lower it
          </Button>
        </div>
      </form>
      {said && (
        <p role="status" className={`py-1 text-[14px] ${said.bad ? "text-bad" : ""}`}>
          {said.words}
        </p>
      )}
      <p className="py-1 text-[13px] text-ink-2">
        The pickup keeps its gap and goes down as well. Look at what is below before you cut: less
        room to the ground, and more oil up the skirt reaches the crank sooner.
      </p>
      <Fitted document={document} onType={onType} onReplace={onReplace} />
    </section>
  );
}
