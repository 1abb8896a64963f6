import type { ReactElement } from "react";
import type { Drain, DrainsStage } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { MovingOil } from "../../document/MovingOil";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { placeWords } from "../../plots/place";
import { loadWords, type Load } from "../../plots/rose";
import { nearestIndex } from "../../plots/traces";
import type { Now } from "./elevation";
import { flowIn, titleOf } from "./sentence";

/** Above the picture: the moment in words, and what the figures rest on. */
export function DrainHead({
  stage,
  drain,
  now,
  time,
  load,
  isPad,
  isBefore,
  onLap,
}: {
  stage: DrainsStage;
  drain: Drain;
  now: Now;
  time: number;
  load: Load;
  isPad: boolean;
  isBefore: boolean;
  onLap: () => void;
}): ReactElement {
  const shown = useSettings();
  const { forecast } = useBuildView();
  const lap = forecast.shown?.lap ?? null;
  const where = isPad
    ? `At ${loadWords(load)}`
    : stage.has_lap
      ? placeWords(lap, time)
      : "Standing at full power";
  const at = nearestIndex(stage.time_s, time);
  const feed = drain.samples.flow_l_min[at] ?? 0;
  return (
    <div className="px-6 pt-3">
      <h1 className="font-figure text-[22px] leading-7 font-semibold">
        {bound(titleOf(drain, now, where, shown))}
      </h1>
      <p className="flex flex-wrap items-baseline gap-x-3 font-figure text-[14px] text-ink-2">
        {!isPad && stage.has_lap && <span>{loadWords(load)}</span>}
        {!isPad && (
          <span>
            feed {flowIn(shown, feed)}, {flowIn(shown, feed / (1 - drain.foam))} with its foam
          </span>
        )}
        {isPad && (
          <Button look="bare" className="min-h-6 px-0 underline" onClick={onLap}>
            Back to the lap
          </Button>
        )}
      </p>
      <p className="flex items-start gap-2 text-[13px] text-ink-2">
        <Mark state={stage.moves && !isBefore ? "started" : "caution"} size={16} />
        <span className="min-w-0 flex-1">
          {isBefore ? "As it was before this change; being worked out anew. " : ""}
          {stage.words}
        </span>
      </p>
      {forecast.latest && lap && <MovingOil latest={forecast.latest} isBrief />}
    </div>
  );
}
