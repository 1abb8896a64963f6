import type { ReactElement } from "react";
import { Link } from "react-router";
import type { BookStage } from "../../api/book";
import { Mark } from "../../parts/Mark";
import { dayWords } from "../../parts/days";

type Row = BookStage["strip_down"][number];

const FOUND = { not_looked: "not looked at", sound: "sound", watch: "watch", replace: "replace" };
const MARKS = { not_looked: "nothing", sound: "good", watch: "caution", replace: "bad" } as const;
const TURNED = { worse: "worse", better: "better", same: "as before", first: "the first time" };

/** How one thing was found, when. */
const foundWords = ({ found, off_flat_mm: flat, on }: Row["now"]): string =>
  `${FOUND[found]}${flat === null ? "" : `, ${flat.toFixed(2)} mm off flat`}, ${dayWords(on)}`;

/** What was found at the last strip-down against the one before. */
export function StripDown({
  rows,
  buildId,
}: {
  rows: readonly Row[];
  buildId: number;
}): ReactElement {
  return (
    <section aria-label="At the strip-down" className="border-t border-hair px-4 py-2 lg:px-6">
      <h2 className="font-figure text-[18px] font-semibold">At the strip-down</h2>
      {rows.length > 0 && (
        <ul className="text-[15px]">
          {rows.map((row) => (
            <li
              key={row.item}
              data-item={row.item}
              className="flex flex-wrap items-center gap-x-3 border-b border-hair py-1"
            >
              <Mark state={MARKS[row.now.found]} />
              <span className="min-w-[220px] flex-1">
                {row.item}
                {row.now.note && <span className="text-ink-2">: {row.now.note}</span>}
              </span>
              <span>{foundWords(row.now)}</span>
              <span className={row.turned === "worse" ? "font-semibold" : "text-ink-2"}>
                {TURNED[row.turned]}
                {row.before && row.turned !== "same" ? `: was ${foundWords(row.before)}` : ""}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="text-[15px]">
        {rows.length === 0 && "Nothing was looked at on this car's pan and pickup yet. "}
        <Link to={`/builds/${buildId}/pan`} className="inline-flex min-h-9 items-center underline">
          Look it over on Pan
        </Link>
      </p>
    </section>
  );
}
