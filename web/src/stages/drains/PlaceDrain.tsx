import { useEffect, useId, useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { DrainsStage } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { useSettings } from "../../parts/settings";
import type { TypedPlace } from "./PlacesDrawing";
import { typedPlace } from "./typedPlace";

type Unplaced = DrainsStage["unplaced"][number];
type Spot = readonly [string, string, string];
export type OnTyped = (places: readonly TypedPlace[]) => void;

const AHEAD = "ahead of the rail's rear face";
const LEFT = "left of the crank, minus right";

function Three({
  legend,
  labels,
  value,
  unit,
  onChange,
}: {
  legend: string;
  labels: readonly [string, string, string];
  value: Spot;
  unit: string;
  onChange: (value: Spot) => void;
}): ReactElement {
  const id = useId();
  return (
    <fieldset className="pt-2">
      <legend className="font-figure text-[16px] font-semibold">{legend}</legend>
      {labels.map((label, at) => (
        <div key={label} className="flex items-baseline justify-between gap-3 py-0.5 text-[14px]">
          <label htmlFor={`${id}-${at}`} className="text-ink-2">
            {label}
          </label>
          <span className="flex shrink-0 items-baseline gap-1">
            <input
              id={`${id}-${at}`}
              value={value[at]}
              autoComplete="off"
              onChange={(event) =>
                onChange(value.map((each, k) => (k === at ? event.target.value : each)) as never)
              }
              className="w-20 border-b border-dotted border-ink bg-transparent text-right font-figure text-[17px] font-semibold"
            />
            <span className="w-6 font-figure text-[13px] text-ink-2">{unit}</span>
          </span>
        </div>
      ))}
    </fieldset>
  );
}

const MEETS = "where it meets";

/** What every drain that cannot be judged yet wants told; where two meet is asked once. */
export function PlaceDrains({
  drains,
  isBefore,
  onTyped,
}: {
  drains: readonly Unplaced[];
  /** They are of the state before: what was told last is being worked out. */
  isBefore: boolean;
  /** What has been typed of a drain's places, to be drawn. */
  onTyped?: OnTyped;
}): ReactElement {
  const asks = drains.findIndex(({ wants }) => wants.some((want) => want.startsWith(MEETS)));
  return (
    <>
      {drains.map((each, at) => {
        const wants = each.wants.filter((want) => at === asks || !want.startsWith(MEETS));
        return wants.length === 0 ? null : (
          <PlaceDrain
            key={each.run}
            drain={{ ...each, wants }}
            isBefore={isBefore}
            onTyped={onTyped}
          />
        );
      })}
    </>
  );
}

/** Where a drain leaves what it drains and where it comes in: told once, then it can be judged. */
function PlaceDrain({
  drain,
  isBefore,
  onTyped,
}: {
  drain: Unplaced;
  isBefore: boolean;
  onTyped: OnTyped | undefined;
}): ReactElement {
  const { edit } = useBuildView();
  const { system } = useSettings();
  const [outlet, setOutlet] = useState<Spot>(["", "", ""]);
  const [entry, setEntry] = useState<Spot>(["", "", ""]);
  const [meets, setMeets] = useState<Spot>(["", "", ""]);
  const [fault, setFault] = useState<string | null>(null);
  const unit = system === "metric" ? "mm" : "in";
  const wantsOutlet = drain.wants.some((want) => want.startsWith("where oil leaves"));
  const wantsEntry = drain.wants.some((want) => want.startsWith("where the line"));
  const wantsMeets = drain.wants.some((want) => want.startsWith(MEETS));
  useEffect(() => {
    onTyped?.([
      typedPlace("oil leaves", outlet, system, false),
      typedPlace("meets the other's", meets, system, false),
      typedPlace("comes in", entry, system, true),
    ]);
  }, [onTyped, outlet, meets, entry, system]);
  const whole = (spot: Spot): boolean => spot.every((each) => each.trim() !== "");
  const isReady =
    (!wantsOutlet || whole(outlet)) &&
    (!wantsEntry || whole(entry)) &&
    (!wantsMeets || whole(meets));

  async function place(): Promise<void> {
    setFault(null);
    try {
      await edit.mutateAsync({
        kind: "act",
        act: {
          kind: "tune_drain",
          run: drain.run,
          ...(wantsOutlet ? { outlet_mm: outlet } : {}),
          ...(wantsMeets ? { meets_mm: meets } : {}),
          ...(wantsEntry ? { entry_mm: entry } : {}),
        } as never,
        system,
      });
    } catch (refused) {
      setFault(wordsOf(refused));
    } finally {
      edit.reset();
    }
  }

  return (
    <form
      aria-label={`Places of the ${drain.name}`}
      className="border-b border-ink px-4 pt-2 pb-3"
      onSubmit={(event) => {
        event.preventDefault();
        void place();
      }}
    >
      <h2 className="font-figure text-[18px] font-semibold">Where is the {drain.name}?</h2>
      <p className="text-[13px] text-ink-2">
        Measured on the engine, from the rear face of the pan rail on the crank's centreline.
      </p>
      {wantsOutlet && (
        <Three
          legend="Where oil leaves"
          labels={[AHEAD, LEFT, "over the pan rail"]}
          value={outlet}
          unit={unit}
          onChange={setOutlet}
        />
      )}
      {wantsMeets && (
        <Three
          legend="Where it meets the other's"
          labels={[AHEAD, LEFT, "over the pan rail"]}
          value={meets}
          unit={unit}
          onChange={setMeets}
        />
      )}
      {wantsEntry && (
        <Three
          legend="Where it comes in"
          labels={[AHEAD, LEFT, "under the pan rail, minus over"]}
          value={entry}
          unit={unit}
          onChange={setEntry}
        />
      )}
      {fault && (
        <p role="alert" className="pt-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      <Button
        look="main"
        type="submit"
        className="mt-2"
        disabled={!isReady || isBefore || edit.isPending}
      >
        Place it
      </Button>
    </form>
  );
}
