import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { useSupply, type Supply } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { ofKind } from "../../document/circuit/circuit";
import { FitForms } from "../../document/circuit/FitForms";
import { useEdits } from "../../document/useEdits";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { flowAs, pressureAs, shownAs, volumeAs } from "../../parts/units";

type Row = Supply["hot"][number];

type Column = readonly [heading: string, figure: (row: Row) => string];

const CELL = "border-t border-hair py-0.5 text-right";

/** The circuit running steadily at a few speeds. */
function Steadily({ rows, caption }: { rows: readonly Row[]; caption: string }): ReactElement {
  const { system, units } = useSettings();
  const { circuit } = useBuildView().build.document;
  const bar = (value: number): string => pressureAs(units, system, value).figure;
  const filters = new Set(
    [...ofKind(circuit, "filter"), ...ofKind(circuit, "remote_filter")].map(({ id }) => id),
  );
  const coolers = new Set(
    [...ofKind(circuit, "cooler"), ...ofKind(circuit, "plate_cooler")].map(({ id }) => id),
  );
  const over = (row: Row, ids: ReadonlySet<string>): number =>
    row.along.reduce((sum, part) => (ids.has(part.component) ? sum + part.drop_bar : sum), 0);
  const drop = (value: number): string =>
    shownAs(units, "drop_bar", system, value, 1)?.figure ?? value.toFixed(2);
  const fallOver = (name: string, ids: ReadonlySet<string>): Column[] =>
    ids.size > 0 ? [[name, (row) => drop(over(row, ids))]] : [];
  const columns: readonly Column[] = [
    ["rpm", (row) => `${row.rpm}`],
    ["gallery", (row) => bar(row.gallery_bar)],
    ["pump", (row) => bar(row.outlet_bar)],
    ...fallOver("filter", filters),
    ...fallOver("cooler", coolers),
    [
      `let back, ${flowAs(units, system, 0).unit}`,
      (row) => flowAs(units, system, row.relieved_l_min).figure,
    ],
  ];
  const past = rows.filter(({ unfiltered }) => unfiltered >= 0.01);
  const starved = rows.filter(({ starves }) => starves);
  return (
    <>
      <table className="mt-2 w-full font-figure text-[14px]">
        <caption className="text-left text-[15px] font-semibold">{caption}</caption>
        <thead className="text-ink-2">
          <tr>
            {columns.map(([heading]) => (
              <th key={heading} scope="col" className="pl-1 text-right align-top font-medium">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.rpm}>
              {columns.map(([heading, figure]) => (
                <td key={heading} className={CELL}>
                  {figure(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {past.length > 0 && (
        <p className="text-[13px]">
          Its bypass is open at{" "}
          {past
            .map((row) => `${row.rpm} rpm (${(row.unfiltered * 100).toFixed(0)} % unfiltered)`)
            .join(", ")}
          .
        </p>
      )}
      {starved.length > 0 && (
        <p className="text-[13px] text-bad">
          The pump&apos;s inlet is sucked lower than 0.25 bar at{" "}
          {starved.map((row) => row.rpm).join(", ")} rpm: it fills badly and wears.
        </p>
      )}
    </>
  );
}

/** The valve that rules the pressure, set from the gallery that is wanted. */
function Regulating({
  told,
  wanted,
  rpm,
  onAsk,
}: {
  told: Supply;
  wanted: string | null;
  rpm: string | null;
  onAsk: (change: { wanted_bar?: string; at_rpm?: string }) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const { circuit } = useBuildView().build.document;
  const { act, fault } = useEdits();
  const { setting } = told;
  const said = (value: number): string => {
    const { figure, unit } = pressureAs(units, system, value);
    return `${figure} ${unit}`;
  };
  const at = circuit.components.findIndex(({ name }) => name === setting?.valve);
  const opens = setting?.opens_bar;
  return (
    <>
      <h3 className="pt-3 font-figure text-[16px] font-semibold">Set from the wanted gallery</h3>
      <EditFigure
        label="Wanted in the gallery"
        field="wanted_bar"
        value={setting?.wanted_bar ?? null}
        note={wanted && !setting ? `as typed: ${wanted}` : undefined}
        onType={(typed) => {
          onAsk({ wanted_bar: typed });
          return Promise.resolve();
        }}
      />
      <EditFigure
        label="At"
        field="at_rpm"
        value={setting?.rpm ?? (rpm === null ? 6000 : null)}
        onType={(typed) => {
          onAsk({ at_rpm: typed });
          return Promise.resolve();
        }}
      />
      {setting && opens != null && (
        <>
          <p className="py-1 text-[14px]">
            Set the {setting.valve} to open at <strong>{said(opens)}</strong>
            {setting.now_bar !== null && `; now ${said(setting.now_bar)}`}. What lies between it and
            the gallery takes the rest.
          </p>
          <Button
            onClick={() =>
              act({
                kind: "figures",
                figures: [{ field: `circuit.components.${at}.opens_bar`, value: opens }],
              })
            }
          >
            Set it so
          </Button>
        </>
      )}
      {setting && opens == null && (
        <p className="py-1 text-[14px]">
          No setting gives that: the gallery has {said(setting.least_bar)} with the softest and{" "}
          {said(setting.most_bar)} with the valve shut for good.
        </p>
      )}
      {fault && (
        <Notice kind="bad" title="Not set">
          {fault}
        </Notice>
      )}
    </>
  );
}

const YARD = 0.9144; // [m]

/** What a second filter gains, and how soon there is pressure. */
function FiltersAndStart({ told }: { told: Supply }): ReactElement {
  const { system, units } = useSettings();
  const litres = (value: number, extraDecimals = 0): string => {
    const { figure, unit } = volumeAs(units, system, value, extraDecimals);
    return `${figure} ${unit}`;
  };
  const bar = (value: number): string => pressureAs(units, system, value).figure;
  const { second_filter: second, lines, start_up: start } = told;
  return (
    <>
      {second && (
        <p className="py-1 text-[14px]">
          A second filter on the base takes the filters&apos; drop at the highest speed from{" "}
          {second.before_drop_bar.toFixed(2)} to {second.drop_bar.toFixed(2)} bar: gallery{" "}
          {bar(second.before_bar)} to {bar(second.gallery_bar)} {pressureAs(units, system, 1).unit}.
          It holds {litres(second.more_oil_l)} more: fill up by that.
        </p>
      )}
      {lines && (
        <p className="py-1 text-[14px]">
          The lines under pressure hold {litres(lines.held_l)}. Each{" "}
          {system === "metric" ? "metre" : "yard"} more of the line “{lines.name}” regains{" "}
          {litres(lines.more_l_m * (system === "metric" ? 1 : YARD), 1)}: longer lines are oil, too.
        </p>
      )}
      <h3 className="pt-3 font-figure text-[16px] font-semibold">First start</h3>
      <p className="py-1 text-[14px]">
        Cranked at {start.rpm} rpm the gallery has pressure after{" "}
        <strong>{start.dry_s.toFixed(0)} s</strong> from dry ({litres(start.to_fill_l)} to fill),{" "}
        <strong>{start.primed_s.toFixed(0)} s</strong> with filter, cooler and lines filled before.
        Sparks off, in bursts, until the gauge moves; a dry pump may not lift at all.
      </p>
    </>
  );
}

/** The circuit in other conditions, what can be fitted, and its valve's setting. */
export function SupplyPage(): ReactElement {
  const { system, units } = useSettings();
  const { build } = useBuildView();
  const [asked, setAsked] = useState<{ wanted_bar?: string; at_rpm?: string }>({});
  const { data: told, error } = useSupply(build, asked, system);
  const warm = (value: number): string => {
    const shown = shownAs(units, "x_c", system, value);
    return shown ? `${shown.figure} ${shown.unit}` : `${value} °C`;
  };
  const { unit } = pressureAs(units, system, 1);
  return (
    <section aria-labelledby="supply" className="px-4 pt-2 pb-4">
      <h2 id="supply" className="font-figure text-[18px] font-semibold">
        Supply
      </h2>
      <FitForms />
      {error && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {wordsOf(error)}
        </p>
      )}
      {!told && !error && (
        <p role="status" className="py-2 text-[14px] text-ink-2">
          Running the circuit hot and cold…
        </p>
      )}
      {told && (
        <>
          <Steadily rows={told.hot} caption={`Steadily, oil at ${warm(told.hot_c)}, ${unit}`} />
          <Steadily
            rows={told.cold}
            caption={`A cold start, oil at ${warm(told.cold_c)}, ${unit}`}
          />
          <p className="pt-1 text-[13px] text-ink-2">
            Cold oil hardly flows: filter, cooler and pump see the relief&apos;s pressure and more.
            Warm it up before the engine is loaded.
          </p>
          <Regulating
            told={told}
            wanted={asked.wanted_bar ?? null}
            rpm={asked.at_rpm ?? null}
            onAsk={(change) => setAsked((before) => ({ ...before, ...change }))}
          />
          <FiltersAndStart told={told} />
        </>
      )}
    </section>
  );
}
