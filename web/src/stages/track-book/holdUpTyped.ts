import { today } from "../../parts/days";
import type { Booked } from "../../api/book";

/** Two figures as they are typed. */
export type Row = readonly [string, string];
type HoldUpEntry = Extract<Booked, { kind: "hold_up" }>;

const number = (typed: string): number => Number(typed.trim().replace(",", "."));
const isFree = ([one, other]: Row): boolean => one.trim() === "" && other.trim() === "";

/** Rows as figures; null where one cannot be read. */
function pairsOf(rows: readonly Row[], least: number, most: number): [number, number][] | null {
  const found = rows
    .filter((row) => !isFree(row))
    .map(([one, other]): [number, number] => [
      one.trim() === "" ? NaN : number(one),
      other.trim() === "" ? NaN : number(other),
    ]);
  const isRead = found.every(
    ([one, level]) => one >= least && one <= most && level >= 0 && level <= 600,
  );
  return isRead ? found : null;
}

/** The trial as it is kept, or what keeps it from being, as its button says it. */
export function trialOf(
  id: string,
  standing: string,
  running: readonly Row[],
  after: readonly Row[],
): HoldUpEntry | string {
  if (standing.trim() === "") return "Level with all of it back is still to be filled in";
  const level = number(standing);
  if (!(level >= 0 && level <= 600)) return "Level with all of it back: 0 to 600 mm";
  const speeds = pairsOf(running, 300, 15_000);
  if (!speeds) return "Engine at: 300 to 15000 rpm, each with a level of 0 to 600 mm";
  if (speeds.length === 0) return "Engine at, with its level, is still to be filled in";
  const later = pairsOf(after, 0, 3600);
  if (!later) return "Off for: 0 to 3600 s, each with a level of 0 to 600 mm";
  return {
    kind: "hold_up",
    id,
    on: today(),
    oil_c: null,
    standing_mm: level,
    running: speeds.map(([rpm, level_mm]) => ({ rpm, level_mm })),
    after: later.map(([seconds, level_mm]) => ({ seconds, level_mm })),
    words: "",
  };
}

/** By what a figure was found that was taken over from a trial: as the core has it. */
export const sourceOf = (on: string): string => `hold-up trial, ${on}`;
