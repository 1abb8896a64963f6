import { useState, type ReactElement } from "react";
import type { Assumed, DrainsStage } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { FitForms } from "../../document/circuit/FitForms";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { Mark } from "../../parts/Mark";
import { PulledList } from "./DrainList";
import { otherPages } from "./otherPages";
import { PlaceDrains } from "./PlaceDrain";
import { PlacesDrawing, type TypedPlace } from "./PlacesDrawing";
import type { Tab } from "./tabs";

/** Nothing that can be drawn yet: what to do first, and the breathing that every engine has. */
export function NoDrains({
  stage,
  assumed,
  isBefore,
  onAssume,
}: {
  stage: DrainsStage;
  assumed: Assumed;
  /** It is of the state before: this one's is being worked out. */
  isBefore: boolean;
  onAssume: (assumed: Assumed) => void;
}): ReactElement {
  const { forecast } = useBuildView();
  const isPulled = stage.pulled.length > 0;
  const hasDrains = isPulled || stage.unplaced.length > 0;
  const [picked, setPicked] = useState<Tab | null>(null);
  const [typed, setTyped] = useState<readonly TypedPlace[]>([]);
  const drawing = forecast.shown?.drawing;
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
      <section className="flex min-w-0 flex-1 flex-col px-6 py-6">
        <h1 className="font-figure text-[22px] font-semibold">
          {stage.unplaced.length > 0
            ? "A drain wants its places first"
            : isPulled
              ? "Every drain has a stage of its own"
              : "Nothing drains by a line of its own"}
        </h1>
        <p className="max-w-[56ch] py-2">
          {stage.unplaced.length > 0
            ? "Tell where oil leaves what is drained and where the line comes in: three figures each. Then its head over the lap is worked out."
            : isPulled
              ? "None of them needs to fall. What comes to each stage, foam and all, beside what it sweeps, is listed here; the rules say the rest."
              : "Oil of this engine comes back through the block alone. Fit a turbo, or an outside return of a head, and its drain is worked out here."}
        </p>
        {isBefore && (
          <p className="flex items-start gap-2 text-[13px] text-ink-2" aria-live="polite">
            <Mark state="caution" size={16} />
            As it was before this change; being worked out anew.
          </p>
        )}
        {stage.unplaced.length > 0 && drawing && <PlacesDrawing drawing={drawing} places={typed} />}
        {!hasDrains && (
          <div className="max-w-md">
            <FitForms kinds={["feed_turbo", "outside_return"]} title="Fit what drains" isOpen />
          </div>
        )}
      </section>
      <InspectorTabs
        shown={picked ?? (hasDrains ? "drains" : "breathing")}
        onShow={setPicked}
        pages={[
          {
            key: "drains",
            label: "Drains",
            content: (
              <>
                <PulledList stage={stage} />
                <PlaceDrains drains={stage.unplaced} isBefore={isBefore} onTyped={setTyped} />
                {!hasDrains && <p className="px-4 py-3 text-[14px] text-ink-2">No drain yet.</p>}
              </>
            ),
          },
          ...otherPages(stage, assumed, onAssume, forecast.shown?.drawing ?? null),
        ]}
      />
    </div>
  );
}
