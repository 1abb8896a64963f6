import type { ReactElement, ReactNode } from "react";
import type { OptionRow, Options, Standing } from "../../api/options";
import { AirBar } from "../../drawing/AirBar";
import { Mark, type MarkState } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs, pressureAs } from "../../parts/units";
import { InUnits } from "../../parts/InUnits";
import { RemedyGlyph } from "./RemedyGlyph";

const MARKS: Record<Standing["state"], MarkState> = {
  holds: "good",
  may_hold: "started",
  does_not: "bad",
  first_look: "nothing",
  failed: "caution",
  waiting: "nothing",
};
const SAID: Record<Standing["state"], string> = {
  holds: "holds",
  may_hold: "may hold",
  does_not: "does not hold",
  first_look: "first look",
  failed: "could not be run",
  waiting: "not run yet",
};

export const stateWords = (standing: Standing): string => SAID[standing.state];
export const markOf = (standing: Standing): MarkState => MARKS[standing.state];

const COLUMNS =
  "grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-2.5 sm:grid-cols-[48px_minmax(0,1fr)_56px_56px_56px_52px_44px_34px_52px]";

function Figure({
  value,
  unit,
  bad = false,
  className = "",
}: {
  value: string;
  unit: string;
  bad?: boolean;
  className?: string;
}): ReactElement {
  return (
    <span
      className={`whitespace-nowrap text-right font-figure text-[17px] font-semibold ${bad ? "text-bad" : ""} ${className}`}
    >
      {value}
      <span className="ml-0.5 text-[13px] font-medium text-ink-2">{unit}</span>
    </span>
  );
}

/** Dry time left of what there is now, as a bar of air. */
function Left({ dry, base }: { dry: number | null; base: number }): ReactElement {
  const share = dry === null || base <= 0 ? 0 : Math.min(1, dry / base);
  return (
    <svg width="56" height="14" viewBox="0 0 56 14" aria-hidden="true" className="hidden sm:block">
      <rect x="0.5" y="1.5" width="55" height="11" fill="none" stroke="var(--hair)" />
      {share > 0 && <AirBar x={0.5} y={1.5} width={Math.max(2, 55 * share)} height={11} />}
    </svg>
  );
}

const dryWords = (standing: Standing): string =>
  standing.dry_s === null
    ? ""
    : `${standing.is_estimate || standing.rung === "settled" ? "~" : ""}${standing.dry_s.toFixed(1)}`;

function Cells({
  standing,
  base,
  groundMm,
  groundBad,
  needs,
}: {
  standing: Standing;
  base: number;
  groundMm: number | null;
  groundBad: boolean;
  needs: OptionRow["needs"];
}): ReactElement {
  const { system, units } = useSettings();
  const lowest =
    standing.lowest_bar === null ? null : pressureAs(units, system, standing.lowest_bar);
  const ground = groundMm === null ? null : lengthAs(units, system, groundMm);
  return (
    <>
      <Left dry={standing.dry_s} base={base} />
      <Figure
        value={dryWords(standing)}
        unit={standing.dry_s === null ? "" : "s"}
        bad={standing.state === "does_not"}
        className="hidden sm:inline"
      />
      <Figure value={lowest?.figure ?? ""} unit={lowest?.unit ?? ""} className="hidden sm:inline" />
      <Figure
        value={needs ? `$${needs.cost.toFixed(0)}` : ""}
        unit=""
        className="hidden sm:inline"
      />
      <Figure
        value={needs ? needs.hours.toFixed(needs.hours < 10 ? 1 : 0) : ""}
        unit={needs ? "h" : ""}
        className="hidden sm:inline"
      />
      <Figure
        value={needs ? `${needs.lead_days}` : ""}
        unit={needs ? "d" : ""}
        className="hidden sm:inline"
      />
      <Figure
        value={ground?.figure ?? ""}
        unit={ground?.unit ?? ""}
        bad={groundBad}
        className="hidden sm:inline"
      />
    </>
  );
}

/** The same figures in a line below the title, where there is no room for columns. */
function PhoneLine({ row }: { row: OptionRow }): ReactElement {
  const { standing, needs } = row;
  const parts = [
    standing.dry_s === null ? null : `dry ${dryWords(standing)} s`,
    standing.lowest_bar === null ? null : `${standing.lowest_bar.toFixed(1)} bar`,
    needs && `$${needs.cost.toFixed(0)}`,
    needs && `${needs.hours.toFixed(1)} h`,
    needs && `${needs.lead_days} d`,
  ].filter(Boolean);
  return <span className="font-figure text-[14px] sm:hidden">{parts.join(" · ")}</span>;
}

function Row({
  row,
  base,
  isPicked,
  isChosen,
  onPick,
}: {
  row: OptionRow;
  base: number;
  isPicked: boolean;
  isChosen: boolean;
  onPick: () => void;
}): ReactElement {
  const { standing } = row;
  return (
    <li>
      <button
        type="button"
        aria-pressed={isPicked}
        onClick={onPick}
        data-option={row.key}
        data-state={standing.state}
        className={`${COLUMNS} w-full border-b px-2 py-1.5 text-left ${isChosen ? "border-good bg-good-wash" : "border-hair"} ${isPicked ? "outline-2 -outline-offset-2 outline-ink" : ""}`}
      >
        <span className="hidden sm:block">
          <RemedyGlyph group={row.group} />
        </span>
        <span className="flex min-w-0 flex-col">
          <span className="flex min-w-0 items-baseline gap-1.5">
            <Mark state={row.told ? markOf(standing) : "nothing"} size={15} />
            <span className="min-w-0 font-figure text-[16px] leading-tight font-semibold">
              {row.letter} · <InUnits words={row.title} />
              <span className="sr-only">: {row.told ? stateWords(standing) : "not told"}</span>
            </span>
          </span>
          <PhoneLine row={row} />
          <span className="truncate text-[13px] text-ink-2">
            {row.told ? (
              <InUnits words={row.worse || standing.rung_words || "not run yet"} />
            ) : (
              "the model cannot tell"
            )}
          </span>
        </span>
        <Cells
          standing={standing}
          base={base}
          groundMm={row.ground_mm}
          groundBad={(row.ground_spare_mm ?? 0) < 0}
          needs={row.needs}
        />
      </button>
    </li>
  );
}

function Heading(): ReactElement {
  const words = ["dry left", "a lap", "lowest", "costs", "work", "wait", "ground"];
  return (
    <div className={`${COLUMNS} border-b border-ink px-2 pb-1 text-[13px] text-ink-2`}>
      <span className="sm:col-span-2">Remedy, least effort first</span>
      {words.map((each, at) => (
        <span key={each} className={`hidden sm:block ${at === 0 ? "" : "text-right"}`}>
          {each}
        </span>
      ))}
    </div>
  );
}

/** Remedies that do not apply, each with its reason. */
function NotHere({ rows }: { rows: readonly OptionRow[] }): ReactElement | null {
  if (rows.length === 0) return null;
  return (
    <details className="mt-3">
      <summary className="py-1 text-[14px]">
        {rows.length} {rows.length === 1 ? "does" : "do"} not apply to this build
      </summary>
      <ul>
        {rows.map((row) => (
          <li key={row.key} className="border-b border-hair py-1 text-[14px]">
            <span className="font-semibold">
              <InUnits words={row.title} />
            </span>
            <span className="text-ink-2">
              : <InUnits words={row.reason} />
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Every remedy with what it buys and what it costs. */
export function RemedyTable({
  options,
  name,
  picked,
  onPick,
  children,
}: {
  options: Options;
  /** Of the build as it is. */
  name: string;
  picked: string | null;
  onPick: (key: string) => void;
  children?: ReactNode;
}): ReactElement {
  const base = options.base.dry_s ?? 0;
  const applying = options.rows.filter((row) => row.applies);
  // what holds is looked for first; the rest in the order of effort
  const isChosen = (row: OptionRow): boolean => row.key === options.choice.key;
  const shown = [...applying.filter(isChosen), ...applying.filter((row) => !isChosen(row))];
  return (
    <div>
      <Heading />
      <div className={`${COLUMNS} border-b border-hair px-2 py-2`}>
        <span className="flex items-center gap-1.5 font-figure text-[17px] font-semibold sm:col-span-2">
          <Mark state={markOf(options.base)} size={15} /> {name}
          <span className="font-figure text-[14px] font-medium text-ink-2 sm:hidden">
            dry {base.toFixed(1)} s
          </span>
        </span>
        <Cells
          standing={options.base}
          base={base}
          groundMm={options.base_ground_mm}
          groundBad={(options.base_ground_spare_mm ?? 0) < 0}
          needs={null}
        />
      </div>
      <ul>
        {shown.map((row) => (
          <Row
            key={row.key}
            row={row}
            base={base}
            isPicked={row.key === picked}
            isChosen={isChosen(row)}
            onPick={() => onPick(row.key)}
          />
        ))}
      </ul>
      <p className="py-2 text-[13px] text-ink-2">
        ~ an estimate: settled oil, or the worst windows alone · work: hours in your own workshop ·
        wait: days for parts · ground: gap under the lowest corner. Costs and hours are invented or
        guessed until you type your own.
      </p>
      <NotHere rows={options.rows.filter((row) => !row.applies)} />
      {children}
    </div>
  );
}
