import { memo, type ReactElement } from "react";
import type { Slosh } from "../../api/queries";
import { AirBar } from "../../drawing/AirBar";
import type { Table } from "../../parts/csv";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { onlySettled, settledDry } from "./settledBeside";

type Lap = NonNullable<Slosh["lap"]>;

const figure = "font-figure";

/** The rose as figures. */
export function roseTable({ rose }: Slosh): Table {
  return {
    title: "Cover rose: steady load at which the mouth goes dry",
    headings: ["oil thrown [deg, 0 forward, 90 left]", "dry from [g]"],
    rows: rose.thrown_deg.map((thrown, index) => [
      thrown,
      rose.dry_from_g[index] ?? `covered to ${rose.limit_g} g`,
    ]),
  };
}

const seconds = (dry: number): string => (dry >= 0.1 ? dry.toFixed(1) : dry.toFixed(2));

const besideWords = (dry: number): string =>
  dry > 0 ? `settled oil ${seconds(dry)} s` : "settled oil covers";

/** One dip: picking it goes to its worst moment. */
function Row({
  dip,
  on,
  longest,
  beside,
  onTime,
}: {
  dip: Lap["dips"][number];
  on: boolean;
  longest: number;
  /** What the other model says of the same place. */
  beside: string | null;
  onTime: (time: number) => void;
}): ReactElement {
  return (
    <li className="border-t border-hair">
      <button
        type="button"
        aria-current={on || undefined}
        onClick={() => onTime(dip.worst_s)}
        className={`flex h-[37px] w-full items-center gap-2 px-4 text-left ${figure} focus-visible:outline-offset-[-3px] ${
          on ? "bg-ink text-paper" : ""
        }`}
      >
        <Mark state="bad" onInk={on} />
        <span className="w-[52px] shrink-0 text-[18px] font-semibold">
          {seconds(dip.dry_s)}
          <span className="text-[13px] font-medium"> s</span>
        </span>
        <span className="min-w-0 flex-1 text-[15px] leading-4">
          <span className="block truncate">
            {dip.place}
            {dip.hand ? `, ${dip.hand}` : ""} · {dip.load_g.toFixed(2)} g
          </span>
          {beside && (
            <span className={`block text-[12px] ${on ? "" : "text-ink-2"}`}> {beside}</span>
          )}
        </span>
        <svg width="64" height="14" aria-hidden="true">
          <AirBar x={0.5} y={0.5} width={Math.max(2, (62 * dip.dry_s) / longest)} height={12} />
        </svg>
      </button>
    </li>
  );
}

/** The dips, worst first; picking one goes to its worst moment. */
export const Dips = memo(function Dips({
  lap,
  settled,
  at,
  onTime,
}: {
  lap: Lap | null;
  /** The same lap in settled oil, where the one shown is in moving oil. */
  settled: Lap | null;
  /** Rank of the dip at the moment shown. */
  at: number | null;
  onTime: (time: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const longest = Math.max(lap?.dips[0]?.dry_s ?? 0, settled?.dips[0]?.dry_s ?? 0) || 1;
  const settledOnly = lap && settled ? onlySettled(lap.dips, settled.dips) : [];
  const least = lap ? lengthAs(units, system, lap.least_cover_mm) : null;
  return (
    <section aria-labelledby="dips">
      <div className="flex items-baseline justify-between px-4 py-2">
        <h2 id="dips" className={`${figure} text-[18px] font-semibold`}>
          Dips at the mouth
        </h2>
        {lap && (
          <span className={`${figure} text-[13px] text-ink-2`}>
            {lap.dry_s.toFixed(1)} s of {lap.duration_s.toFixed(1)} s dry
          </span>
        )}
      </div>
      {!lap && <p className="px-4 pb-4">Import a lap and its dips are listed here.</p>}
      {lap?.dips.length === 0 && least && (
        <p className="flex gap-2 px-4 pb-4">
          <Mark state={lap.draws_air_s > 0 ? "caution" : "good"} />
          <span>
            None.{" "}
            {settled && lap.least_cover_mm < 0
              ? "Bare for a moment"
              : `Least cover ${least.figure} ${least.unit}`}
            , at {lap.least_cover_at_s.toFixed(1)} s
            {lap.draws_air_s > 0 ? `; draws air along for ${lap.draws_air_s.toFixed(1)} s.` : "."}
          </span>
        </p>
      )}
      <ol>
        {lap?.dips.map((dip) => (
          <Row
            key={dip.rank}
            dip={dip}
            on={dip.rank === at}
            longest={longest}
            beside={settled ? besideWords(settledDry(dip, settled.dips)) : null}
            onTime={onTime}
          />
        ))}
      </ol>
      {settledOnly.length > 0 && (
        <>
          <h3 className="border-t border-ink px-4 py-1 text-[13px] text-ink-2">
            Only in settled oil
          </h3>
          <ol>
            {settledOnly.map((dip) => (
              <Row
                key={dip.rank}
                dip={dip}
                on={false}
                longest={longest}
                beside="only settled oil"
                onTime={onTime}
              />
            ))}
          </ol>
        </>
      )}
    </section>
  );
});
