import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useBottleMap, type PressureStage, type Trial, type Tune } from "../../api/pressure";
import type { Act } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { ofKind } from "../../document/circuit/circuit";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { InUnits } from "../../parts/InUnits";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { flowAs, PRECHARGED_AT_C, pressureAs, temperatureWords, volumeAs } from "../../parts/units";
import { bestCharge } from "./bottleMap";
import { BottleLine } from "./BottleLine";
import { BottlePlot } from "./BottlePlot";
import { BottleStop } from "./BottleStop";
import { Givings } from "./Givings";
import { useTried } from "./useTried";

const FIRST = { volume_l: 2, precharge_bar: 2 };

/** What a bottle that is tried does: lowest pressure, how long it holds, what is to be poured. */
function Does({ trial, isFresh }: { trial: Trial; isFresh: boolean }): ReactElement {
  const { system, units } = useSettings();
  const bar = (value: number): string => pressureAs(units, system, value).figure;
  const { unit } = pressureAs(units, system, 1);
  const { pressure, bottle } = trial;
  const added = volumeAs(units, system, Math.abs(trial.oil_added_l));
  const warmth = temperatureWords(units, system, bottle.warmth_c);
  const dips = pressure.dips.length;
  const apart = flowAs(units, system, trial.draw_apart_l_min);
  const rows: [string, string][] = [
    [`Alone it holds ${bar(pressure.wanted_bar)} ${unit} for`, `${bottle.holds_s.toFixed(1)} s`],
    [
      "Least left in it",
      `${volumeAs(units, system, bottle.least_l).figure} of ${volumeAs(units, system, bottle.charge_l).figure} ${volumeAs(units, system, 1).unit}`,
    ],
  ];
  if (Math.abs(trial.oil_added_l) >= 0.05)
    rows.push([
      trial.oil_added_l > 0 ? "Oil to add, once" : "Oil to let out",
      `${added.figure} ${added.unit}`,
    ]);
  return (
    <div aria-busy={!isFresh} aria-live="polite" data-trial={isFresh}>
      <p className="flex items-center gap-2 border-b border-hair py-1 text-[15px]">
        <Mark state={dips > 0 ? "bad" : "good"} />
        <span className="font-figure font-semibold">
          Lowest {bar(pressure.lowest_bar)} {unit}
        </span>
        <span className="font-figure text-ink-2">
          of {bar(pressure.usual_bar)} usual,{" "}
          {dips === 0
            ? "no dip in this estimate"
            : `${dips === 1 ? "1 dip" : `${dips} dips`}, ${pressure.under_s.toFixed(1)} s`}
        </span>
      </p>
      {rows.map(([words, figure]) => (
        <p
          key={words}
          className="flex items-baseline justify-between gap-3 border-b border-hair py-1 text-[14px]"
        >
          <span className="text-ink-2">{words}</span>
          <span className="font-figure text-[16px] font-semibold">{figure}</span>
        </p>
      ))}
      <p className="py-1 text-[13px] text-ink-2">
        {bar(bottle.precharge_bar)} {unit} cold is {bar(bottle.warm_bar)} at {warmth}, which the
        bottle is guessed to come to.
        {bottle.advised_bar !== null &&
          ` The best for quick dips by the closed form, kept a little under its cliff: ${bar(bottle.advised_bar)} ${unit} cold.`}
      </p>
      {!trial.is_like && (
        <p className="pb-1 text-[13px] text-ink-2">
          It changes what the pump draws by {apart.figure} {apart.unit} on average, so the oil in
          the pan will lie otherwise: its own run decides.
        </p>
      )}
    </div>
  );
}

/** An accumulator tried by hand on the lap, then set. */
export function Designer({
  stage,
  runId,
  onTime,
}: {
  stage: PressureStage;
  runId: number | null;
  onTime: (time: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const { build, edit } = useBuildView();
  const [box, { width }] = useSize();
  const [fault, setFault] = useState<string | null>(null);
  const own = ofKind(build.document.circuit, "accumulator")[0];
  const stands =
    own && stage.bottle
      ? { litres: own.volume_l, bar: own.precharge_bar ?? stage.bottle.precharge_bar }
      : null;
  const first: Tune = stands
    ? { volume_l: stands.litres, precharge_bar: stands.bar }
    : { ...FIRST };
  const { tune, setTune, trial, isFresh, error } = useTried(runId, first);
  const litres = typeof tune.volume_l === "number" ? tune.volume_l : trial?.bottle.volume_l;
  const bar =
    typeof tune.precharge_bar === "number" ? tune.precharge_bar : trial?.bottle.precharge_bar;
  const bottle = { litres: litres ?? FIRST.volume_l, bar: bar ?? FIRST.precharge_bar };
  const mostL = bottle.litres > 4 || (stands?.litres ?? 0) > 4 ? 8 : 4;
  const mostBar = bottle.bar > 4 || (stands?.bar ?? 0) > 4 ? 8 : 4;
  const map = useBottleMap(build, runId, mostL, mostBar);
  const best = map.data ? bestCharge(map.data, bottle.litres) : null;
  const lowest = trial ? pressureAs(units, system, trial.pressure.lowest_bar) : null;
  const cold = temperatureWords(units, system, PRECHARGED_AT_C);
  const isSet = JSON.stringify(tune) === JSON.stringify(first) && stands !== null;

  const type = (key: "volume_l" | "precharge_bar") => (typed: string) => {
    setTune({ ...tune, [key]: typed });
    return Promise.resolve();
  };

  async function setIt(act: Act): Promise<void> {
    setFault(null);
    try {
      await edit.mutateAsync({ kind: "act", act, system });
    } catch (refused) {
      setFault(wordsOf(refused));
    } finally {
      edit.reset();
    }
  }

  return (
    <section aria-labelledby="designer" className="px-4 pt-2 pb-4">
      <div className="flex items-baseline justify-between gap-2">
        <h2 id="designer" className="font-figure text-[18px] font-semibold">
          {stands ? "Accumulator" : "Try an accumulator"}
        </h2>
        <span className="text-[13px] text-ink-2">drag the point, or type</span>
      </div>
      <EditFigure
        label="Bottle, gas and oil"
        field="volume_l"
        value={bottle.litres}
        onType={type("volume_l")}
      />
      <EditFigure
        label={`Pre-charge, at ${cold}`}
        field="precharge_bar"
        value={bottle.bar}
        onType={type("precharge_bar")}
      />
      <p className="pt-2 font-figure text-[13px] text-ink-2">
        Lowest gallery pressure over the lap
        {map.isFetching && " · mapping…"}
      </p>
      <div ref={box}>
        {width > 0 && (
          <BottlePlot
            map={map.data}
            bottle={bottle}
            stands={stands}
            said={lowest ? `${lowest.figure} ${lowest.unit}` : "…"}
            mostBar={mostBar}
            mostL={mostL}
            width={width}
            onBottle={(next) =>
              setTune({ ...tune, volume_l: next.litres, precharge_bar: next.bar })
            }
          />
        )}
      </div>
      {map.error && (
        <p role="alert" className="text-[13px] text-bad">
          The map could not be made: {wordsOf(map.error)}
        </p>
      )}
      {error && (
        <p role="alert" className="text-[14px] text-bad">
          {wordsOf(error)}
        </p>
      )}
      {trial && <Does trial={trial} isFresh={isFresh} />}
      <BottleLine stage={stage} tune={tune} trial={trial} onTune={setTune} />
      <div className="flex flex-wrap items-center gap-2 py-2">
        <Button
          look="main"
          disabled={!trial || !isFresh || isSet || edit.isPending}
          onClick={() => {
            if (trial) void setIt(trial.act);
          }}
        >
          {stands ? "Set it so" : "Fit this bottle"}
        </Button>
        {best !== null && Math.abs(best - bottle.bar) > 0.15 && (
          <Button
            onClick={() =>
              setTune({ ...tune, volume_l: bottle.litres, precharge_bar: Number(best.toFixed(1)) })
            }
          >
            Try {pressureAs(units, system, best).figure} {pressureAs(units, system, best).unit}:
            best for this size
          </Button>
        )}
        {!isSet && stands && <Button onClick={() => setTune(first)}>As it stands</Button>}
      </div>
      {trial && !isSet && (
        <p className="pb-1 text-[13px] text-ink-2">
          Does: <InUnits words={trial.words} />.
        </p>
      )}
      {fault && (
        <Notice kind="bad" title="Not set">
          {fault}
        </Notice>
      )}
      {trial && <Givings bottle={trial.bottle} onTime={onTime} />}
      {stage.stopped && <BottleStop stage={stage} />}
    </section>
  );
}
