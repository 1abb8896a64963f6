import type { ReactElement } from "react";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { Badge } from "./Envelope";
import type { FitNow, PlaceNow } from "./standing";
import { gapWords } from "./words";

const WIDE = 64;
const HIGH = 26;

/** The gap round by round, what is wanted dashed. */
function Trend({ place }: { place: PlaceNow }): ReactElement | null {
  const gaps = place.found.map(({ gap_mm: gap }) => gap ?? place.wanted_mm);
  if (gaps.length === 0) return null;
  const most = Math.max(...gaps, place.wanted_mm, 1);
  const at = (n: number, gap: number): string =>
    `${(6 + (n * (WIDE - 12)) / Math.max(1, gaps.length - 1)).toFixed(1)} ${(HIGH - 4 - ((HIGH - 8) * gap) / most).toFixed(1)}`;
  const wanted = HIGH - 4 - ((HIGH - 8) * place.wanted_mm) / most;
  return (
    <svg width={WIDE} height={HIGH} aria-hidden="true">
      <path d={`M2 ${wanted.toFixed(1)}h${WIDE - 4}`} stroke="var(--line)" strokeDasharray="3 3" />
      <path
        d={`M${gaps.map((gap, n) => at(n, gap)).join("L")}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {place.found.map((each, n) => {
        const [x, y] = at(n, gaps[n] ?? 0).split(" ");
        return each.touches ? (
          <path key={each.round} d={`M${x} ${Number(y) - 5}l5 8h-10z`} fill="var(--bad)" />
        ) : (
          <circle key={each.round} cx={x} cy={y} r="2.6" fill="var(--ink)" />
        );
      })}
    </svg>
  );
}

const SHOWN_ROUNDS = 3;

/** What was found of a place in one round, as short as a cell wants it. */
const foundWords = (
  { touches, gap_mm: gap }: { touches: boolean; gap_mm: number | null },
  length: (mm: number) => string,
): string => (touches ? "touch" : gap === null ? "seen" : length(gap));

/** Every place with what was wanted, forecast and found, round by round. */
export function PlaceTable({
  now,
  picked,
  onPick,
}: {
  now: FitNow;
  picked: string | undefined;
  onPick: (id: string) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const length = (mm: number): string => lengthAs(units, system, mm).figure;
  const rounds = now.rounds.slice(-SHOWN_ROUNDS);
  const head = "py-1 text-right font-normal whitespace-nowrap";
  return (
    <table className="w-full text-[15px]">
      <thead>
        <tr className="border-b border-ink text-[13px] text-ink-2">
          <th scope="col" className="py-1 text-left font-normal">
            place
          </th>
          <th scope="col" className={head}>
            wanted
          </th>
          <th scope="col" className={head}>
            forecast
          </th>
          {rounds.map(({ number }) => (
            <th key={number} scope="col" className={head}>
              round {number}
            </th>
          ))}
          <th scope="col" className={`${head} hidden sm:table-cell`}>
            trend
          </th>
          <th scope="col" className="hidden py-1 pl-3 text-left font-normal sm:table-cell">
            what was done
          </th>
        </tr>
      </thead>
      <tbody>
        {now.places.map((place) => {
          const isPicked = place.id === picked;
          const last = place.found.at(-1);
          return (
            <tr
              key={place.id}
              data-row={place.id}
              onClick={() => onPick(place.id)}
              className={`cursor-pointer border-b border-hair ${isPicked ? "bg-panel shadow-[inset_3px_0_0_var(--ink)]" : ""}`}
            >
              <th scope="row" className="text-left font-normal">
                <button
                  type="button"
                  aria-pressed={isPicked}
                  onClick={() => onPick(place.id)}
                  className="flex min-h-10 w-full items-center gap-2 pl-2 text-left"
                >
                  <svg
                    width="26"
                    height="26"
                    viewBox="-13 -13 26 26"
                    aria-hidden="true"
                    className="shrink-0"
                  >
                    <Badge place={place} at={[0, 0]} />
                  </svg>
                  <span className="min-w-0">{place.name}</span>
                </button>
              </th>
              <td className="text-right font-figure">{length(place.wanted_mm)}</td>
              <td className="text-right font-figure text-oil-deep">
                {place.forecast_mm === null ? "" : length(place.forecast_mm)}
              </td>
              {rounds.map(({ number }) => {
                const found = place.found.find(({ round }) => round === number);
                return (
                  <td
                    key={number}
                    className={`text-right font-figure ${found?.touches ? "font-semibold text-bad" : ""} ${number === rounds.at(-1)?.number ? "font-semibold" : ""}`}
                  >
                    {found ? foundWords(found, length) : ""}
                  </td>
                );
              })}
              <td className="hidden pl-2 text-right sm:table-cell">
                <span className="inline-block align-middle">
                  <Trend place={place} />
                </span>
              </td>
              <td className="hidden pl-3 text-[14px] text-ink-2 sm:table-cell">
                {place.accepted ? `accepted: ${place.accepted}` : (last?.done ?? "")}
                <span className="sr-only">{gapWords(last, units, system)}</span>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
