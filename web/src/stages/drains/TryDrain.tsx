import type { ReactElement } from "react";
import type { Drain } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { InUnits } from "../../parts/InUnits";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { gasPressureAs } from "../../parts/units";
import { BendsForm } from "./BendsForm";
import type { Now } from "./elevation";
import { lengthIn } from "./sentence";
import { fittedAt, suggestionsFor } from "./suggest";
import type { Tried } from "./useTrial";

const SIZES = {
  "": "as measured",
  "6": "6",
  "8": "8",
  "10": "10",
  "12": "12",
  "16": "16",
  "20": "20",
} as const;

/** What the trial would do at the lap's worst. */
function Does({ tried }: { tried: Tried }): ReactElement | null {
  const shown = useSettings();
  const { trial, isFresh } = tried;
  if (!trial) return null;
  const holds = trial.back_ups === 0;
  const crankcase = gasPressureAs(shown.units, shown.system, trial.highest_mbar);
  return (
    <div className="py-2 text-[14px]" aria-live="polite" aria-busy={!isFresh} data-trial>
      <p className="flex items-start gap-2 font-semibold text-opt">
        <Mark state={!holds ? "bad" : trial.spare_mm < 10 ? "caution" : "good"} />
        <span className="min-w-0 flex-1">
          {holds
            ? `${lengthIn(shown, trial.spare_mm)} of head to spare at the least`
            : `still ${lengthIn(shown, trial.spare_mm)} short, over the seals for ${trial.flooded_s.toFixed(1)} s`}
        </span>
      </p>
      <p className="text-[13px] text-ink-2">
        Where it was worst: {lengthIn(shown, trial.there_mm)} there is,{" "}
        {lengthIn(shown, trial.needed_mm)} needed, {lengthIn(shown, trial.push_mm)} of it against
        gas. Crankcase {crankcase.figure} {crankcase.unit} at the most.
        {!isFresh && " Working it out…"}
      </p>
    </div>
  );
}

/** A drain set otherwise: size, feed, breather, entry; what that would do, and the button. */
export function TryDrain({
  drain,
  worst,
  tried,
}: {
  drain: Drain;
  /** How it stands at the lap's worst. */
  worst: Now;
  tried: Tried;
}): ReactElement {
  const { build, edit } = useBuildView();
  const shown = useSettings();
  const fitted = fittedAt(build.document, drain);
  const { change, setChange } = tried;
  const type =
    (key: "opening_mm" | "restrictor_mm" | "seal_height_mm") =>
    (typed: string): Promise<void> => {
      setChange({ ...change, [key]: typed });
      return Promise.resolve();
    };
  const typed = (value: unknown, now: number | null): number | null =>
    typeof value === "number" ? value : now;
  const size = `${change.dash ?? fitted.dash ?? ""}` as keyof typeof SIZES;
  const suggestions =
    drain.state === "good"
      ? []
      : suggestionsFor(worst, fitted, (mm) => lengthIn(shown, mm)).filter(
          (each) => !Object.keys(each.change).some((key) => key in change),
        );
  return (
    <section aria-labelledby="try-drain" className="border-b border-ink px-4 pt-2 pb-3">
      <h2 id="try-drain" className="font-figure text-[18px] font-semibold">
        Try it otherwise
      </h2>
      {drain.held_by && drain.state !== "good" && (
        <p className="text-[13px] text-ink-2">What holds it back at its worst: {drain.held_by}.</p>
      )}
      {suggestions.length > 0 && (
        <div className="flex flex-wrap gap-2 py-2">
          {suggestions.map((each) => (
            <Button key={each.words} onClick={() => setChange({ ...change, ...each.change })}>
              {each.words}
            </Button>
          ))}
        </div>
      )}
      <Choice
        label="Drain's size"
        value={size}
        choices={SIZES}
        onChoose={(picked) => {
          if (picked) setChange({ ...change, dash: Number(picked) as never });
        }}
      />
      <EditFigure
        label="Breather's narrowest"
        field="opening_mm"
        value={typed(change.opening_mm, fitted.openingMm)}
        onType={type("opening_mm")}
      />
      {fitted.restrictorMm !== null && (
        <EditFigure
          label="Restrictor in the feed"
          field="restrictor_mm"
          value={typed(change.restrictor_mm, fitted.restrictorMm)}
          onType={type("restrictor_mm")}
        />
      )}
      {drain.kind === "turbo" && (
        <EditFigure
          label="Seals over its flange"
          field="seal_height_mm"
          value={typed(change.seal_height_mm, fitted.sealMm)}
          note={fitted.sealMm === null ? "a guess is used until it is measured" : undefined}
          onType={type("seal_height_mm")}
        />
      )}
      <BendsForm key={drain.run} drain={drain} onTry={(bends) => setChange({ ...change, bends })} />
      <p className="pt-1 text-[13px] text-ink-2">
        {drain.junction
          ? `It falls to ${drain.junction}, not to the pan.`
          : change.entry_mm
            ? "Its entry is tried where the wall is marked."
            : "Tap the wall to try another entry."}
      </p>
      <Does tried={tried} />
      {tried.error && (
        <p role="alert" className="text-[14px] text-bad">
          {tried.error}
        </p>
      )}
      {tried.isSet && (
        <div className="flex flex-wrap gap-2 pt-1">
          <Button
            look="main"
            disabled={!tried.trial || !tried.isFresh || edit.isPending}
            onClick={() => void tried.fit()}
          >
            Set it so
          </Button>
          <Button onClick={() => setChange({})}>As it stands</Button>
        </div>
      )}
      {tried.trial && tried.isSet && (
        <p className="pt-1 text-[13px] text-ink-2">
          Does: <InUnits words={tried.trial.words} />.
        </p>
      )}
      {tried.fault && (
        <Notice kind="bad" title="Not set">
          {tried.fault}
        </Notice>
      )}
    </section>
  );
}
