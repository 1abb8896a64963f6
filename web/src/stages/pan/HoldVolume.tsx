import { useState, type ReactElement } from "react";
import { Refusal, wordsOf } from "../../api/client";
import { useDepthFor } from "../../api/photos";
import type { BuildOut } from "../../api/queries";
import { Button } from "../../parts/Button";
import { useSettings } from "../../parts/settings";
import { lengthAs, scaleOf, volumeAs } from "../../parts/units";

/** Another shape for the same litres: the volume to keep is asked, the depth is offered. */
export function HoldVolume({
  build,
  capacityL,
  onDeepen,
}: {
  build: BuildOut;
  capacityL: number;
  onDeepen: (typed: string, zones: string[]) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const depth = useDepthFor(build.id);
  const [zones, setZones] = useState(build.document.pan.zones.slice(0, 1).map(({ id }) => id));
  const now = volumeAs(units, system, capacityL);
  const [typed, setTyped] = useState<string | null>(null);
  const [held, setHeld] = useState<string | null>(null);
  const shown = typed ?? held ?? now.figure;
  const wantedL = Number(shown.replace(",", ".")) / scaleOf(units, "x_l", system);
  const offered = depth.data?.by_mm ?? null;
  const by = lengthAs(units, system, Math.abs(offered ?? 0));
  return (
    <section aria-labelledby="hold" className="border-t border-ink px-4 py-3">
      <h2 id="hold" className="font-figure text-[18px] font-semibold">
        Another shape, the same litres
      </h2>
      <p className="text-[14px] text-ink-2">
        Cut the front short, drag an edge; then say what the pan is to hold to its rail and which
        floor may give way.
      </p>
      <form
        className="pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          depth.mutate({ capacity_l: wantedL, zones });
        }}
      >
        <fieldset className="relative flex flex-wrap gap-x-4 gap-y-1 text-[14px]">
          <legend className="sr-only">Which floors may give way</legend>
          {build.document.pan.zones.map(({ id, name }) => (
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
        <div className="mt-2 flex items-center gap-2 text-[14px]">
          <label className="flex items-center gap-2">
            hold
            <input
              value={shown}
              aria-label="Volume to hold to the rail"
              onChange={(event) => setTyped(event.target.value)}
              // what is worked out meanwhile does not change it under one's fingers
              onFocus={() => setHeld(now.figure)}
              onBlur={() => setHeld(null)}
              className="h-8 w-20 border border-ink bg-paper px-2 font-figure text-[16px]"
            />
            {now.unit}
          </label>
          <Button type="submit" disabled={zones.length === 0 || !(wantedL > 0) || depth.isPending}>
            Offer a depth
          </Button>
        </div>
      </form>
      {depth.error && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {depth.error instanceof Refusal
            ? (depth.error.problems[0]?.message ?? depth.error.message)
            : wordsOf(depth.error)}
        </p>
      )}
      {offered !== null && (
        <p role="status" className="flex items-center gap-2 py-1 text-[14px]">
          {Math.abs(offered) < 0.05 ? (
            "It holds that as it is."
          ) : (
            <>
              {by.figure} {by.unit} {offered > 0 ? "deeper" : "shallower"} holds it.
              <Button
                look="main"
                onClick={() => {
                  onDeepen(`${offered} mm`, zones);
                  depth.reset();
                  setTyped(null);
                }}
              >
                Do that
              </Button>
            </>
          )}
        </p>
      )}
    </section>
  );
}
