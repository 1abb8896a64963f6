import type { ReactElement } from "react";
import type { Assumed, DrainsStage } from "../../api/drains";
import type { BuildDocument } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { gasFlowAs, gasPressureAs, type Shown } from "../../parts/units";

function Row({
  label,
  value,
  unit,
  note,
}: {
  label: string;
  value: string;
  unit: string;
  note?: string;
}): ReactElement {
  return (
    <div className="border-b border-hair py-1">
      <p className="flex items-baseline justify-between gap-3">
        <span className="text-[14px] text-ink-2">{label}</span>
        <span className="font-figure text-[18px] font-semibold">
          {value} <span className="text-[14px] font-medium text-ink-2">{unit}</span>
        </span>
      </p>
      {note && <p className="text-[13px] text-ink-2">{note}</p>}
    </div>
  );
}

/** A guess that can be moved through its likely band. */
function Slider({
  label,
  value,
  said,
  low,
  high,
  band,
  known,
  onSet,
}: {
  label: string;
  value: number;
  said: string;
  low: number;
  high: number;
  /** Between which it is likely to be. */
  band: readonly [number, number];
  known: "A guess" | "Measured" | "Tried";
  onSet: (value: number) => void;
}): ReactElement {
  const share = (at: number): number => ((at - low) / (high - low)) * 100;
  return (
    <label className="block border-b border-hair py-2 text-[14px] text-ink-2">
      <span className="flex items-baseline justify-between gap-3">
        {label}
        <span className="font-figure text-[18px] font-semibold text-ink">{said}</span>
      </span>
      <span className="relative block">
        <span
          className="absolute top-[25px] h-[4px] bg-oil-wash outline-1 outline-oil-deep"
          style={{ left: `${share(band[0])}%`, width: `${share(band[1]) - share(band[0])}%` }}
          aria-hidden="true"
        />
        <input
          type="range"
          min={low}
          max={high}
          step="1"
          value={value}
          onChange={(event) => onSet(Number(event.target.value))}
          className="relative h-8 w-full accent-(--ink)"
        />
      </span>
      <span className="text-[13px]">
        {known}; likely {band[0].toFixed(0)} to {band[1].toFixed(0)}.
      </span>
    </label>
  );
}

/** Hours on the lap after which a can of so many litres is full. */
export function hoursToFill(
  litres: number,
  { breathing, duration_s: duration }: DrainsStage,
): number {
  const carried = breathing.carried_ml * (3600 / Math.max(1, duration));
  return (litres * 1e3) / Math.max(0.1, breathing.mist_ml_h + carried);
}

/** How a can is emptied. */
export function cans({ circuit }: BuildDocument, can: string): string {
  const out = circuit.runs.find(({ start }) => start.component === can && start.port === "drain");
  const to = circuit.components.find(({ id }) => id === out?.end.component)?.kind;
  if (to === "drain_cock") return ", and empty it by its cock";
  if (to) return "; it drains back by itself, which a check valve and a fall must allow";
  return "; it has no cock: fit one at its lowest point, or it is taken off to be emptied";
}

/** Blow-by, the ways out that it has, the crankcase's pressure, what the can catches; the guesses. */
export function BreathingPage({
  stage,
  assumed,
  onAssume,
}: {
  stage: DrainsStage;
  assumed: Assumed;
  onAssume: (assumed: Assumed) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const { build } = useBuildView();
  const { breathing } = stage;
  const can = build.document.circuit.components.find(({ kind }) => kind === "catch_can") as
    { id: string; name: string; volume_l: number } | undefined;
  const foam = stage.guesses.find(({ key }) => key === "turbo_foam");
  const flow = (value: number): Shown => gasFlowAs(units, system, value);
  const blowBy = flow(breathing.blow_by_l_min);
  const highest = gasPressureAs(units, system, breathing.highest_mbar);
  const usual = gasPressureAs(units, system, breathing.usual_mbar);
  const isAssumed = assumed.foamPct !== null || assumed.blowByLMin !== null;
  const [low, high] = breathing.mist_band_ml_h;
  return (
    <section aria-labelledby="breathing" className="px-4 pt-2 pb-4">
      <h2 id="breathing" className="font-figure text-[18px] font-semibold">
        Breathing
      </h2>
      <p className="text-[13px] text-ink-2">
        The crankcase pushes against every drain that oil shuts.
      </p>
      <Row
        label={`Blow-by at ${breathing.at_rpm.toFixed(0)} rpm`}
        value={blowBy.figure}
        unit={blowBy.unit}
        note={breathing.measured ? "as measured" : "a guess: by power and wear, or tried below"}
      />
      <Row
        label="Crankcase, at the most"
        value={highest.figure}
        unit={highest.unit}
        note={`${usual.figure} most of the lap`}
      />
      <h3 className="pt-3 font-figure text-[16px] font-semibold">Ways for gas</h3>
      {breathing.ways.map((way) => (
        <p
          key={way.run}
          className="flex items-start justify-between gap-2 border-b border-hair py-1 text-[14px]"
        >
          <span className="min-w-0 flex-1">
            {way.name}
            {way.under_s > 0 && (
              <span className="flex items-center gap-1 text-bad">
                <Mark state="bad" size={14} /> under oil for {way.under_s.toFixed(1)} s a lap
              </span>
            )}
          </span>
          <span className="shrink-0 font-figure text-[16px] font-semibold">
            {flow(way.flow_l_min).figure}{" "}
            <span className="text-[13px] font-medium text-ink-2">{flow(1).unit}</span>
          </span>
        </p>
      ))}
      <h3 className="pt-3 font-figure text-[16px] font-semibold">Into the catch can</h3>
      <Row
        label="Oil pushed out of covered ports"
        value={breathing.carried_ml.toFixed(0)}
        unit="ml a lap"
        note="worked out where ports have a place"
      />
      <Row
        label="Mist, an hour on the lap"
        value={breathing.mist_ml_h.toFixed(0)}
        unit="ml"
        note={`a guess: ${low.toFixed(0)} to ${high.toFixed(0)}; a can that is measured tells it`}
      />
      <Row
        label="Mist with a baffle in the cover"
        value={breathing.baffled_ml_h.toFixed(0)}
        unit="ml"
        note={`a guess: ${breathing.baffled_band_ml_h.map((ml) => ml.toFixed(0)).join(" to ")} of this mist gets past one; oil pushed out of a covered port is not stopped by it`}
      />
      {can && (
        <Row
          label={`${can.name}, full after`}
          value={hoursToFill(can.volume_l, stage).toFixed(0)}
          unit="h on the lap"
          note={`by this guess of mist: look at it after every session${cans(build.document, can.id)}`}
        />
      )}
      <h3 className="pt-3 font-figure text-[16px] font-semibold">What nobody measured</h3>
      <Slider
        label="Gas in what turbos drain"
        value={assumed.foamPct ?? foam?.likely ?? 40}
        said={`${(assumed.foamPct ?? foam?.likely ?? 40).toFixed(0)} %`}
        low={0}
        high={60}
        band={[foam?.low ?? 30, foam?.high ?? 50]}
        known={assumed.foamPct === null ? "A guess" : "Tried"}
        onSet={(foamPct) => onAssume({ ...assumed, foamPct })}
      />
      <Slider
        label="Blow-by at full power"
        value={assumed.blowByLMin ?? breathing.blow_by_l_min}
        said={`${flow(assumed.blowByLMin ?? breathing.blow_by_l_min).figure} ${blowBy.unit}`}
        low={5}
        high={300}
        band={[
          Math.max(5, 0.5 * breathing.blow_by_l_min),
          Math.min(300, 2 * breathing.blow_by_l_min),
        ]}
        known={assumed.blowByLMin !== null ? "Tried" : breathing.measured ? "Measured" : "A guess"}
        onSet={(blowByLMin) => onAssume({ ...assumed, blowByLMin })}
      />
      {isAssumed && (
        <Button onClick={() => onAssume({ foamPct: null, blowByLMin: null })}>
          Back to the build
        </Button>
      )}
    </section>
  );
}
