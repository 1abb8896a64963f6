import { today } from "../../parts/days";
import type { Booked } from "../../api/book";

/** Two figures as they are typed. */
export type Row = readonly [string, string];
type HoldUpEntry = Extract<Booked, { kind: "hold_up" }>;

/** Between which a figure is taken, as the server takes it, and its unit. */
type Limits = readonly [number, number, string];
const LEVEL: Limits = [0, 600, "mm"];
const SPEED: Limits = [300, 15_000, "rpm"];
const LATER: Limits = [0, 3600, "s"];

const within = (value: number, [least, most]: Limits): boolean => value >= least && value <= most;
const limitWords = ([least, most, unit]: Limits): string => `${least} to ${most} ${unit}`;

const number = (typed: string): number => Number(typed.trim().replace(",", "."));
const isFree = ([one, other]: Row): boolean => one.trim() === "" && other.trim() === "";

/** Rows as figures; null where one cannot be read. */
function pairsOf(rows: readonly Row[], limits: Limits): [number, number][] | null {
  const found = rows
    .filter((row) => !isFree(row))
    .map(([one, other]): [number, number] => [
      one.trim() === "" ? NaN : number(one),
      other.trim() === "" ? NaN : number(other),
    ]);
  const isRead = found.every(([one, level]) => within(one, limits) && within(level, LEVEL));
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
  if (!within(level, LEVEL)) return `Level with all of it back: ${limitWords(LEVEL)}`;
  const withLevel = `each with a level of ${limitWords(LEVEL)}`;
  const speeds = pairsOf(running, SPEED);
  if (!speeds) return `Engine at: ${limitWords(SPEED)}, ${withLevel}`;
  if (speeds.length === 0) return "Engine at, with its level, is still to be filled in";
  const later = pairsOf(after, LATER);
  if (!later) return `Off for: ${limitWords(LATER)}, ${withLevel}`;
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
