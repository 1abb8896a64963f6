import { useState, type ReactElement } from "react";
import type { Drain, Tune } from "../../api/drains";
import type { BuildDocument } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { useSettings } from "../../parts/settings";
import { exactlyShown } from "../../parts/units";

type Bends = NonNullable<Tune["bends"]>;
type Route = BuildDocument["circuit"]["runs"][number]["route"];
type Row = readonly [ahead: string, left: string, up: string, radius: string];

const LABELS = ["ahead", "left", "over rail", "radius"] as const;
const MOST = 20; // bends of a line: see TuneDrain

/** The bends of a drain's own line, between its ends. */
export function bendsOf({ circuit }: BuildDocument, run: string): Route {
  const route = circuit.runs.find(({ id }) => id === run)?.route ?? [];
  return route.slice(1, -1);
}

/** Rows as they are typed, as an act takes them; null while one is not whole. */
export function bendsTyped(rows: readonly Row[]): Bends | null {
  const isWhole = rows.every((row) => row.slice(0, 3).every((each) => each.trim() !== ""));
  if (!isWhole) return null;
  return rows.map(([x, y, z, radius]) => ({
    at_mm: [x, y, z],
    radius_mm: radius.trim() === "" ? null : radius,
  })) as never;
}

/** The way of a drain's own line, bend by bend, from what it drains down. */
export function BendsForm({
  drain,
  onTry,
}: {
  drain: Drain;
  onTry: (bends: Bends) => void;
}): ReactElement {
  const { build } = useBuildView();
  const { system, units } = useSettings();
  const shown = (mm: number): string => exactlyShown(units, "at_mm", system, mm).figure;
  const stored = bendsOf(build.document, drain.run);
  const base = JSON.stringify([stored, system]);
  const asStored = stored.map(({ at_mm: [x, y, z], radius_mm: radius }): Row => [
    shown(x),
    shown(y),
    shown(z),
    radius == null ? "" : shown(radius),
  ]);
  const [held, setHeld] = useState<{ base: string; rows: readonly Row[] }>({
    base,
    rows: asStored,
  });
  const rows = held.base === base ? held.rows : asStored;
  const set = (next: readonly Row[]): void => setHeld({ base, rows: next });
  const typed = bendsTyped(rows);
  const { unit } = exactlyShown(units, "at_mm", system, 0);
  return (
    <details className="border-b border-hair">
      <summary className="py-1.5 text-[14px] font-medium">
        Its way,{" "}
        {rows.length === 0 ? "straight" : `${rows.length} bend${rows.length > 1 ? "s" : ""}`}
      </summary>
      <p className="text-[13px] text-ink-2">
        From the outlet down: where the straight pieces on both sides of a bend would meet, and the
        radius of its middle; none, an elbow. In {unit}.
      </p>
      {rows.map((row, at) => (
        <fieldset key={at} className="relative flex items-end gap-1 py-1">
          <legend className="sr-only">Bend {at + 1}</legend>
          {LABELS.map((label, column) => (
            <label key={label} className="min-w-0 flex-1 text-[12px] text-ink-2">
              <span className="block truncate">{label}</span>
              <input
                value={row[column]}
                placeholder={column === 3 ? "elbow" : undefined}
                maxLength={40}
                autoComplete="off"
                onChange={(event) =>
                  set(
                    rows.map((each, k) =>
                      k === at
                        ? (each.map((old, c) => (c === column ? event.target.value : old)) as never)
                        : each,
                    ),
                  )
                }
                className="w-full border-b border-dotted border-ink bg-transparent text-right font-figure text-[16px] font-semibold text-ink"
              />
            </label>
          ))}
          <Button
            look="bare"
            aria-label={`Take bend ${at + 1} out`}
            className="min-h-7 px-1"
            onClick={() => set(rows.filter((_, k) => k !== at))}
          >
            ×
          </Button>
        </fieldset>
      ))}
      <div className="flex flex-wrap gap-2 py-2">
        <Button disabled={rows.length >= MOST} onClick={() => set([...rows, ["", "", "", ""]])}>
          One more bend
        </Button>
        <Button disabled={typed === null} onClick={() => typed && onTry(typed)}>
          Try this way
        </Button>
      </div>
    </details>
  );
}
