import type { ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  isUnderWay,
  useApplyRemedy,
  useSearch,
  useSearchAct,
  type Search,
  type What,
} from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Progress } from "../../parts/Progress";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";

type Place = Search["places"][number];

const OFFER: Record<What, { title: string; button: string }> = {
  level_plate: {
    title: "Where a level plate does best",
    button: "Search height and opening: 20 places, two starts",
  },
  pickup: {
    title: "Where the pickup does best",
    button: "Search its place: 20 places, two starts",
  },
  gates: {
    title: "How high and how wide a gated box does best",
    button: "Search height and width: 20 places, two starts",
  },
  side_plates: {
    title: "Where upright plates do best",
    button: "Search height and distance: 20 places, two starts",
  },
};

const ROWS: readonly [prefix: string, what: What][] = [
  ["level_", "level_plate"],
  ["pickup_", "pickup"],
  ["gates_", "gates"],
  ["sides", "side_plates"],
];

/** What can be searched for a remedy's row; null where its size is not Bilge's choice. */
export const searchFor = (key: string): What | null =>
  ROWS.find(([prefix]) => key.startsWith(prefix))?.[1] ?? null;

/** How dry a place is between the best and the worst, as a share of air. */
export function shareOf(place: Place, places: readonly Place[]): number {
  const all = places.flatMap(({ dry_s }) => (dry_s === null ? [] : [dry_s]));
  const [least, most] = [Math.min(...all), Math.max(...all)];
  return place.dry_s === null || most <= least ? 0 : (place.dry_s - least) / (most - least);
}

/** The grid: a row a height, a column an opening; drier is less blue, the best in green. */
function Grid({ search }: { search: Search }): ReactElement {
  const { system, units } = useSettings();
  const { places } = search;
  const across = [...new Set(places.map((each) => each.across_mm))].sort((a, b) => a - b);
  const ups = [...new Set(places.map((each) => each.up_mm))].sort((a, b) => a - b);
  const length = (mm: number): string => lengthAs(units, system, mm).figure;
  const { unit } = lengthAs(units, system, 0);
  return (
    <table className="w-full border-collapse font-figure text-[14px]">
      <caption className="caption-bottom pt-1 text-left font-text text-[13px] text-ink-2">
        Across: {search.across_label}; down: {search.up_label}, {unit}. Figures: dry seconds in the
        worst windows, mean of the starts. Framed: starts do not tell it from the best.
      </caption>
      <thead>
        <tr>
          <td />
          {across.map((each) => (
            <th key={each} scope="col" className="py-0.5 font-medium text-ink-2">
              {length(each)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ups.map((up) => (
          <tr key={up}>
            <th scope="row" className="pr-1 text-right font-medium text-ink-2">
              {length(up)}
            </th>
            {across.map((each) => {
              const place = places.find((at) => at.up_mm === up && at.across_mm === each);
              if (!place) return <td key={each} />;
              const isBest = place.key === search.best;
              const percent = Math.round(70 * shareOf(place, places));
              return (
                <td
                  key={each}
                  title={place.reason || undefined}
                  data-place={place.key}
                  data-best={isBest || undefined}
                  style={{
                    backgroundColor: isBest
                      ? "var(--good-wash)"
                      : `color-mix(in srgb, var(--air) ${percent}%, var(--panel))`,
                  }}
                  className={`border py-0.5 text-center ${place.alike ? "border-ink font-semibold" : "border-hair"}`}
                >
                  {place.dry_s === null ? (place.reason ? "no" : "") : place.dry_s.toFixed(1)}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Whether a place is among the first or last of either way that was tried. */
function isAtTheEdge(best: Place, places: readonly Place[]): boolean {
  const tried = places.filter((each) => each.dry_s !== null);
  return (["up_mm", "across_mm"] as const).some((way) => {
    const all = tried.map((each) => each[way]);
    const [least, most] = [Math.min(...all), Math.max(...all)];
    return most > least && (best[way] === least || best[way] === most);
  });
}

/** The best place in words, to what starts allow. */
export function bestWords(search: Search, length: (mm: number) => string): string {
  const best = search.places.find(({ key }) => key === search.best);
  if (!best) return "";
  const alike = search.places.filter((each) => each.alike);
  const range = (of: (place: Place) => number): string => {
    const all = alike.map(of);
    const [least, most] = [Math.min(...all), Math.max(...all)];
    return least === most ? length(least) : `${length(least)} to ${length(most)}`;
  };
  const where = `${search.up_label} ${length(best.up_mm)}, ${search.across_label} ${length(best.across_mm)}`;
  const edge = isAtTheEdge(best, search.places)
    ? " It is at the edge of what was tried: beyond may do better still."
    : "";
  if (alike.length === 1) return `Best: ${where}.${edge}`;
  return `Best about ${where}; ${range((each) => each.up_mm)} and ${range((each) => each.across_mm)} cannot be told from it.${edge}`;
}

/** A search of places on a grid: begun here, read here, its best made a revision. */
export function SearchPanel({ what }: { what: What }): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const asked = useSearch(build, what);
  const act = useSearchAct(build, what);
  const apply = useApplyRemedy(build);
  const search = asked.data?.search ?? null;
  const isOn = isUnderWay(search);
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const best = search?.best ?? null;
  const fault = act.error ?? apply.error ?? asked.error;
  return (
    <details className="mt-2 border-t border-hair pt-1" open={search !== null}>
      <summary className="py-0.5 text-[14px]">{OFFER[what].title}</summary>
      {isOn && search && (
        <Progress
          doing={`${search.progress.trials_done} of ${search.progress.trials_known} tried:`}
          share={
            search.progress.trials_known > 0
              ? search.progress.trials_done / search.progress.trials_known
              : 0
          }
          onCancel={() => act.mutate("cancel")}
        />
      )}
      {search && <Grid search={search} />}
      {search && best !== null && <p className="py-1 text-[14px]">{bestWords(search, length)}</p>}
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {wordsOf(fault)}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {!isOn && !(search?.is_current && search.progress.status === "finished") && (
          <Button disabled={act.isPending} onClick={() => act.mutate("begin")}>
            {OFFER[what].button}
          </Button>
        )}
        {search?.is_current && !isOn && best !== null && (
          <Button disabled={apply.isPending} onClick={() => apply.mutate(best)}>
            Make the best a revision
          </Button>
        )}
      </div>
    </details>
  );
}
