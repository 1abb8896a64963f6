import { useState, type ReactElement } from "react";
import { wordsOf, type Schemas } from "../api/client";
import { useSideBySide, type BuildOut, type StateRow } from "../api/queries";
import { Mark } from "../parts/Mark";
import { useSettings } from "../parts/settings";
import { aboutFlow, lengthAs, pressureAs, volumeAs, type Shown } from "../parts/units";
import { VERDICT_MARKS } from "../parts/verdict";

type Side = Schemas["SideOut"];

const nameOf = (row: StateRow): string =>
  row.revision
    ? `R${row.revision.number} · ${row.revision.name}`
    : `${row.number} · ${row.change}`.slice(0, 60);

/** The state to begin with: the newest revision that is not shown, else the first state there is. */
export function firstOther(rows: readonly StateRow[], shown: number): number {
  const others = rows.filter(({ number }) => number !== shown);
  return (others.find(({ revision }) => revision) ?? others.at(-1))?.number ?? shown;
}

function Pick({
  label,
  rows,
  value,
  onPick,
}: {
  label: string;
  rows: readonly StateRow[];
  value: number;
  onPick: (number: number) => void;
}): ReactElement {
  return (
    <label className="block min-w-0 flex-1 text-[13px] text-ink-2">
      {label}
      <select
        value={value}
        onChange={(event) => onPick(Number(event.target.value))}
        className="mt-0.5 block w-full rounded-[2px] border border-ink bg-panel px-2 py-1 text-[14px] text-ink"
      >
        {rows.map((row) => (
          <option key={row.number} value={row.number}>
            {nameOf(row)}
          </option>
        ))}
      </select>
    </label>
  );
}

function Figures({ sides, lap }: { sides: readonly Side[]; lap: string | null }): ReactElement {
  const { system, units } = useSettings();
  const told = ({ figure, unit }: Shown): string => `${figure} ${unit}`;
  const seconds = (value: number | null | undefined, none: string): string =>
    value === null || value === undefined ? none : `${value.toFixed(1)} s`;
  const rows: [string, (side: Side) => string][] = [
    ["Mouth dry", ({ verdict }) => seconds(verdict?.dry_s, "no lap")],
    ["Without pressure", ({ verdict }) => seconds(verdict?.under_s, "not run")],
    [
      "Lowest pressure",
      (side) =>
        side.lowest_bar === null ? "not run" : told(pressureAs(units, system, side.lowest_bar)),
    ],
    [
      "Thrown by the crank",
      ({ windage }) =>
        windage ? aboutFlow(units, system, windage.thrown_l_min.likely) : "not known",
    ],
    ["Oil in all", (side) => told(volumeAs(units, system, side.oil_l))],
    [
      "Ground clearance",
      (side) =>
        side.ground_mm === null ? "not known" : told(lengthAs(units, system, side.ground_mm)),
    ],
    ["Figures by", (side) => side.model || "no lap"],
  ];
  return (
    <table className="mt-2 w-full table-fixed text-[14px]">
      <caption className="text-left text-[13px] text-ink-2">
        {lap === null ? "The build has no lap yet." : `Over ${lap}`}
      </caption>
      <thead>
        <tr className="border-b border-ink text-left align-bottom">
          <td />
          {sides.map((side, at) => (
            <th key={at} scope="col" className="py-1 pl-2 font-semibold [overflow-wrap:anywhere]">
              {side.verdict && <Mark state={VERDICT_MARKS[side.verdict.state]} size={14} />}{" "}
              {side.name}
              {side.verdict && (
                <span className="block text-[13px] font-normal">{side.verdict.headline}</span>
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, value]) => (
          <tr key={label} className="border-b border-hair align-top">
            <th scope="row" className="py-0.5 text-left font-normal text-ink-2">
              {label}
            </th>
            {sides.map((side, at) => (
              <td key={at} className="py-0.5 pl-2 font-figure">
                {value(side)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Any two states of the build: their figures beside each other, and what differs in words. */
export function SideBySide({
  build,
  rows,
}: {
  build: BuildOut;
  rows: readonly StateRow[];
}): ReactElement {
  const { system } = useSettings();
  const [open, setOpen] = useState(false);
  const [before, setBefore] = useState(() => firstOther(rows, build.state));
  const [after, setAfter] = useState(build.state);
  const found = useSideBySide(build, open ? [before, after] : null, system);
  return (
    <details
      className="border-b border-ink px-4 py-2"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="text-[14px]">Two states side by side</summary>
      <div className="mt-1 flex gap-3">
        <Pick label="This" rows={rows} value={before} onPick={setBefore} />
        <Pick label="beside" rows={rows} value={after} onPick={setAfter} />
      </div>
      {found.error && (
        <p role="alert" className="mt-1 text-[14px] text-bad">
          {wordsOf(found.error)}
        </p>
      )}
      {!found.data && !found.error && <p className="mt-1 text-[14px] text-ink-2">Reading…</p>}
      {found.data && (
        <>
          <Figures sides={found.data.sides} lap={found.data.lap_name} />
          {found.data.thrown && (
            <p className="mt-1 text-[13px] text-ink-2">
              Thrown by the second&rsquo;s crank: {found.data.thrown}. An estimate, not in the
              verdict.
            </p>
          )}
          <h3 className="mt-2 text-[14px] font-semibold">From the first to the second</h3>
          {found.data.differences.length === 0 && (
            <p className="text-[14px]">Nothing is to be built: they are alike.</p>
          )}
          <ul className="max-h-48 list-disc overflow-y-auto pl-5 text-[14px]">
            {found.data.differences.map(({ field, words }) => (
              <li key={field}>{words}</li>
            ))}
          </ul>
        </>
      )}
    </details>
  );
}
