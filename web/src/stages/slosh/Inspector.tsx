import { useCallback, useMemo, useRef, type ReactElement } from "react";
import type { Slosh } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { reachOf } from "../../drawing/tilt";
import { InspectorTabs } from "../../parts/InspectorTabs";
import { ReadOut } from "../../parts/ReadOut";
import { useSettings } from "../../parts/settings";
import { volumeAs } from "../../parts/units";
import { LoadPad } from "../../plots/LoadPad";
import { heldEdge, type Load } from "../../plots/rose";
import { Dips, roseTable } from "./Dips";
import type { Moment } from "./moment";
import { Mouths } from "./Mouths";
import { Numbers } from "../../document/Numbers";
import { PadFigures } from "./PadFigures";
import { Thrown } from "./Thrown";
import { PressureDips } from "../../document/PressureDips";

export type InspectorTab = "dips" | "numbers";

function Pad({
  slosh,
  moment,
  steady,
  onLoad,
  onBack,
}: {
  slosh: Slosh;
  moment: Moment;
  steady: boolean;
  onLoad: (load: Load) => void;
  onBack: () => void;
}): ReactElement {
  const { system, units } = useSettings();
  const drawn = useRef<HTMLDivElement>(null);
  const { rose, held, lap, drawing } = slosh;
  const rim = reachOf(slosh.tilt);
  const inZone = moment.zonesL[held.zone] ?? 0;
  // the lap's moment has oil on its way; a steady load has none
  const edge = useMemo(
    () => (lap && !steady ? heldEdge(held, rose, inZone) : null),
    [lap, steady, held, rose, inZone],
  );
  const litres = volumeAs(units, system, inZone);
  const zone = drawing.zones[held.zone]?.name ?? "its zone";
  return (
    <section aria-labelledby="rose" className="border-b border-ink px-4 pt-2 pb-2">
      <div className="flex items-center justify-between gap-2">
        <h2 id="rose" className="font-figure text-[18px] font-semibold">
          Cover rose
        </h2>
        <ReadOut name="Cover rose" table={() => roseTable(slosh)} drawing={drawn} />
      </div>
      <p className="font-figure text-[13px] text-ink-2">
        thick: steady load
        {edge && ` · thin: only the ${litres.figure} ${litres.unit} now in ${zone}`}
      </p>
      <div ref={drawn} className="flex justify-center">
        <LoadPad
          rose={rose}
          samples={lap?.samples ?? null}
          load={moment.load}
          steady={steady}
          held={edge}
          rim={rim}
          size={250}
          onLoad={onLoad}
        />
      </div>
      <PadFigures
        load={moment.load}
        rim={rim}
        steady={steady}
        hasLap={lap !== null}
        onLoad={onLoad}
        onBack={onBack}
      />
    </section>
  );
}

/** Beside the drawing: the pad with the dips, or the numbers of the build. */
export function Inspector({
  tab,
  onTab,
  moment,
  steady,
  time,
  onLoad,
  onBack,
  onTime,
}: {
  tab: InspectorTab;
  onTab: (tab: InspectorTab) => void;
  moment: Moment | null;
  steady: boolean;
  time: number;
  onLoad: (load: Load) => void;
  onBack: () => void;
  onTime: (time: number) => void;
}): ReactElement {
  const { forecast } = useBuildView();
  const slosh = forecast.shown;
  const lap = slosh?.lap ?? null;
  // the lap in settled oil, where the forecast is of moving oil
  const settled = slosh === forecast.settled.data ? null : (forecast.settled.data?.lap ?? null);
  const at = steady
    ? null
    : (lap?.dips.find((dip) => dip.start_s <= time && time <= dip.end_s)?.rank ?? null);
  const goTo = useCallback((to: number) => onTime(to), [onTime]);
  return (
    <InspectorTabs
      shown={tab}
      onShow={onTab}
      pages={[
        {
          key: "dips",
          label: "Rose and dips",
          content: (
            <>
              {slosh && moment && (
                <Pad
                  slosh={slosh}
                  moment={moment}
                  steady={steady}
                  onLoad={onLoad}
                  onBack={onBack}
                />
              )}
              {forecast.moves && forecast.figures?.pressure && (
                <PressureDips
                  pressure={forecast.figures.pressure}
                  time={steady ? -1 : time}
                  onTime={goTo}
                />
              )}
              <Dips lap={lap} settled={settled} at={at} onTime={goTo} />
              {forecast.moves && forecast.figures && <Mouths mouths={forecast.figures.mouths} />}
              {forecast.moves && forecast.figures?.windage && (
                <Thrown windage={forecast.figures.windage} beside={forecast.latest?.thrown ?? ""} />
              )}
            </>
          ),
        },
        {
          key: "numbers",
          label: "Numbers",
          content: <Numbers drawing={slosh?.drawing ?? null} />,
        },
      ]}
    />
  );
}
