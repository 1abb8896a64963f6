import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useCooling, type Cooling, type CoolingAsked } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { useEdits } from "../../document/useEdits";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { flowAs, powerAs, pressureAs, shownAs, type Shown } from "../../parts/units";
import { niceTicks } from "../../plots/traces";

/** An engine's power as the server takes it where it is not told [kW]. */
const TAKEN_KW = 150;
/** The hottest that oil is followed to [°C]. */
const NO_REST = 197;

const said = ({ figure, unit }: Shown): string => `${figure} ${unit}`;

/** Figures in the units shown. */
function useTell(): Record<"heat" | "warm" | "warmer" | "bar" | "flow", (value: number) => string> {
  const { system, units } = useSettings();
  const as = (field: string, unit: string) => (value: number) =>
    said(shownAs(units, field, system, value) ?? { figure: value.toFixed(1), unit });
  return {
    heat: as("x_kw", "kW"),
    warm: as("x_c", "°C"),
    warmer: as("x_kelvin", "K"),
    bar: (value) => said(pressureAs(units, system, value)),
    flow: (value) => said(flowAs(units, system, value)),
  };
}

/** The oil's temperature over the stint, with where it comes to rest and what is wanted. */
function StintPlot({ told }: { told: Cooling }): ReactElement {
  const [box, { width }] = useSize();
  const { warm } = useTell();
  const height = 150;
  const { time_s: times, temperature_c: temperatures, wanted_c: wanted, steady_c: steady } = told;
  const lasts = times.at(-1) ?? 1;
  const least = Math.min(...temperatures, wanted) - 8;
  const most = Math.max(...temperatures, wanted, steady ?? 0) + 8;
  const x = (time: number): number => 46 + (time / lasts) * (width - 60);
  const y = (value: number): number =>
    height - 26 - ((value - least) / (most - least)) * (height - 38);
  const path = times
    .map(
      (time, at) => `${at ? "L" : "M"}${x(time).toFixed(1)} ${y(temperatures[at] ?? 0).toFixed(1)}`,
    )
    .join("");
  return (
    <div ref={box}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`Oil temperature over the stint: from ${warm(temperatures[0] ?? 0)} to ${warm(temperatures.at(-1) ?? 0)}`}
          className="block font-figure"
          fontSize="12"
        >
          <path d={`M46 8V${height - 26}H${width - 14}`} fill="none" stroke="var(--ink)" />
          <path
            d={`M46 ${y(wanted)}H${width - 14}`}
            stroke="var(--ink-2)"
            strokeDasharray="5 3"
            fill="none"
          />
          <text x={42} y={y(wanted) + 4} textAnchor="end" fill="var(--ink-2)">
            {warm(wanted)}
          </text>
          {steady !== null && Math.abs(y(steady) - y(wanted)) > 13 && (
            <text x={42} y={y(steady) + 4} textAnchor="end" fill="var(--oil-deep)">
              {warm(steady)}
            </text>
          )}
          <path d={path} fill="none" stroke="var(--oil-deep)" strokeWidth="2" />
          {niceTicks(lasts / 60, 5).map((minute) => (
            <text
              key={minute}
              x={x(minute * 60)}
              y={height - 10}
              textAnchor="middle"
              fill="var(--ink-2)"
            >
              {minute === 0 ? "0 min" : minute}
            </text>
          ))}
        </svg>
      )}
    </div>
  );
}

function Row({ words, figure }: { words: string; figure: string }): ReactElement {
  return (
    <p className="flex items-baseline justify-between gap-3 border-b border-hair py-1 text-[14px]">
      <span className="text-ink-2">{words}</span>
      <span className="text-right font-figure text-[16px] font-semibold">{figure}</span>
    </p>
  );
}

/** Each cooler where the oil comes to rest, and the rating that the first would need. */
function Coolers({ told }: { told: Cooling }): ReactElement {
  const { circuit } = useBuildView().build.document;
  const { heat, warm, warmer, flow } = useTell();
  const names = new Map(circuit.components.map(({ id, name }) => [id, name]));
  if (told.coolers.length === 0)
    return (
      <p className="py-2 text-[14px] text-ink-2">
        No cooler in this circuit: pan and block alone take the heat away. Fit one under Supply.
      </p>
    );
  return (
    <>
      {told.coolers.map((each) => (
        <div key={each.component} className="border-b border-hair py-1 text-[14px]">
          <p className="font-medium">{names.get(each.component)}</p>
          {each.rating_known ? (
            <p className="font-figure text-[15px]">
              takes {heat(each.heat_kw)}, {(each.effectiveness * 100).toFixed(0)} % of what it
              could; {flow(each.flow_l_min)} of oil, {warm(each.oil_in_c)} to {warm(each.oil_out_c)}
              , the other side leaves at {warm(each.other_out_c)}
            </p>
          ) : (
            <p className="text-ink-2">
              Its rating is not known, so it takes nothing out here: enter it under Numbers.
            </p>
          )}
        </div>
      ))}
      <p className="py-1 text-[14px]">
        {told.needed_kw === null
          ? `No rating of the first keeps ${warm(told.wanted_c)} in this.`
          : `To keep ${warm(told.wanted_c)} the first wants a rating of ${told.needed_kw.toFixed(1)} kW (${told.needed_btu_h?.toLocaleString("en-GB") ?? ""} BTU/h), with its oil ${warmer(told.needed_over_kelvin ?? 0)} warmer than what cools it${told.over_is_guessed ? ", a guess: ask its maker what it is rated at" : ""}.`}
      </p>
    </>
  );
}

/** Heat into the oil and out of it, over a stint and at rest. */
export function CoolingPage({ runId }: { runId: number | null }): ReactElement {
  const { system, units } = useSettings();
  const power = powerAs(units, system, TAKEN_KW);
  const { build } = useBuildView();
  const { car } = build.document;
  const [asked, setAsked] = useState<CoolingAsked>({});
  const { data: told, error, isFetching } = useCooling(build, runId, asked, system);
  const { heat, warm, bar } = useTell();
  const { act, fault } = useEdits();
  const figure = (
    label: string,
    key: keyof CoolingAsked,
    value: number | null,
    note?: string,
  ): ReactElement => (
    <EditFigure
      label={label}
      field={key}
      value={typeof asked[key] === "number" ? asked[key] : value}
      note={typeof asked[key] === "string" ? `as typed: ${asked[key]}` : note}
      onType={(typed) => {
        setAsked((before) => ({ ...before, [key]: typed }));
        return Promise.resolve();
      }}
    />
  );
  const isUnknown = told?.coolers.some((each) => !each.rating_known) ?? false;
  const steady = isUnknown ? null : (told?.steady_c ?? null);
  return (
    <section aria-labelledby="cooling" className="px-4 pt-2 pb-4">
      <h2 id="cooling" className="font-figure text-[18px] font-semibold">
        Heat and cooling
      </h2>
      {figure(
        "Greatest power",
        "greatest_power_kw",
        car.engine_power_kw ?? null,
        car.engine_power_kw
          ? "as on Car"
          : `not told on Car: ${power.figure} ${power.unit} is taken, a guess`,
      )}
      {figure("Used on average", "used_pct", 60, "a racing lap: a guess")}
      {figure("Of that into the oil", "to_oil_pct", 3.5, "from memory; a turbo gives more")}
      {figure(
        "Oil into the engine",
        "engine_in_c",
        null,
        "if measured, with the next: then they tell the heat",
      )}
      {figure("Oil out of it", "engine_out_c", null)}
      {figure("Air", "air_c", 25)}
      {figure("Cooling water", "water_c", 88)}
      {figure("Oil to begin with", "begin_c", 60)}
      {error && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {wordsOf(error)}
        </p>
      )}
      {!told && !error && (
        <p role="status" className="py-2 text-[14px] text-ink-2">
          Working the heat out…
        </p>
      )}
      {told && (
        <div aria-busy={isFetching} aria-live="polite">
          <p className="flex items-center gap-2 border-b border-hair py-1.5">
            <Mark
              state={
                isUnknown
                  ? "nothing"
                  : steady === null || steady > told.wanted_c + 3
                    ? "bad"
                    : "good"
              }
            />
            <span className="font-figure text-[16px] font-semibold">
              {isUnknown
                ? "Not known: a cooler's rating is not given"
                : steady === null
                  ? `Comes to no rest under ${warm(NO_REST)}`
                  : `Comes to rest at ${warm(steady)}`}
            </span>
          </p>
          <Row words="Heat into the oil" figure={heat(told.given_kw)} />
          <Row words="Through pan and block (a guess)" figure={heat(told.lost_kw)} />
          <Row
            words={`Gallery at ${warm(told.wanted_c)}, as forecast`}
            figure={bar(told.usual_bar)}
          />
          {told.steady_bar !== null && steady !== null && (
            <Row words={`At ${warm(steady)}`} figure={bar(told.steady_bar)} />
          )}
          <StintPlot told={told} />
          <Coolers told={told} />
          {steady !== null && Math.abs(steady - told.wanted_c) >= 1 && steady < 180 && (
            <Button
              className="my-2"
              onClick={() =>
                act({
                  kind: "figures",
                  figures: [{ field: "oil.temperature_c", value: Math.round(steady) }],
                })
              }
            >
              Forecast with {warm(Math.round(steady))}
            </Button>
          )}
          {fault && (
            <Notice kind="bad" title="Not saved">
              {fault}
            </Notice>
          )}
          <p className="pt-1 text-[13px] text-ink-2">
            One temperature for all oil, by effectiveness and transfer units. Gas in the oil is
            guessed to spoil a cooler by its share. After fitting: warm it up and look for leaks
            outside; of a plate cooler look for oil in the water and water in the oil too, and check
            again when it has cooled.
          </p>
        </div>
      )}
    </section>
  );
}
