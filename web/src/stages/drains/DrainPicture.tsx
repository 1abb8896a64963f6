import { useRef, type ReactElement } from "react";
import type { Drain, DrainsStage } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { volumeAs } from "../../parts/units";
import { drainTable } from "./drainTable";
import { Elevation } from "./Elevation";
import type { Now } from "./elevation";
import { lengthIn } from "./sentence";
import type { Tried } from "./useTrial";
import { WallUnrolled } from "./WallUnrolled";

const WALL = 112; // [px]
const LEAST = 240; // [px] of the elevation's height

/** The drain to scale, and the pan's wall unrolled under it. */
export function DrainPicture({
  stage,
  drain,
  now,
  tried,
}: {
  stage: DrainsStage;
  drain: Drain;
  now: Now;
  tried: Tried;
}): ReactElement {
  const { forecast } = useBuildView();
  const shown = useSettings();
  const [box, { width, height }] = useSize();
  const drawn = useRef<HTMLDivElement>(null);
  const isPulled = drain.junction !== ""; // to a junction: no hole in the pan is its own
  const drawing = (forecast.shown ?? forecast.settled.data)?.drawing;
  const litres = volumeAs(shown.units, shown.system, stage.in_pan_l);
  const entry = tried.change.entry_mm as readonly [number, number, number] | null | undefined;
  return (
    <div ref={box} className="relative min-h-[470px] flex-1 overflow-hidden lg:min-h-0">
      {drawing && width > 0 && (
        <div ref={drawn} className="absolute inset-0">
          <Elevation
            drawing={drawing}
            drain={drain}
            now={now}
            width={width}
            height={Math.max(LEAST, isPulled ? height : height - WALL - 34)}
            litres={`${litres.figure} ${litres.unit}`}
            words={`${drain.name}: ${lengthIn(shown, now.thereMm)} of head there is, ${lengthIn(shown, now.neededMm)} needed`}
          />
          {!isPulled && (
            <div className="px-6">
              <p className="font-figure text-[14px]">
                <b className="font-semibold">The wall, unrolled</b>{" "}
                <span className="text-ink-2">
                  walking round it outside; at every place the worst of the lap; tap to try an entry
                </span>
              </p>
              <WallUnrolled
                wall={stage.wall}
                run={drain.run}
                tried={entry ?? null}
                width={width - 48}
                height={WALL}
                onTry={(entry_mm) => tried.setChange({ ...tried.change, entry_mm })}
              />
            </div>
          )}
        </div>
      )}
      <div className="absolute top-0 right-4">
        <ReadOut name={drain.name} table={() => drainTable(stage, drain)} drawing={drawn} />
      </div>
    </div>
  );
}
