import type { Reading, Understood } from "../../api/logs";

export type Channel = Understood["channels"][number];
export type Column = Reading["columns"][string];
export type Guess = Understood["guesses"][number];
export type Clock = "time" | "distance" | "rate";

/** What tells the time, as the server reads it. */
export function clockOf(reading: Reading): Clock {
  if (reading.columns.time) return "time";
  if (reading.columns.distance && reading.sample_rate_hz == null) return "distance";
  return "rate";
}

/** The reading with another clock; the column of the new one is still to be chosen. */
export function withClock(reading: Reading, clock: Clock): Reading {
  const columns = Object.fromEntries(
    Object.entries(reading.columns).filter(([name]) => name !== "time" && name !== "distance"),
  );
  const blank: Column = { heading: "", unit: "" };
  if (clock !== "rate") columns[clock] = blank;
  return { ...reading, columns, sample_rate_hz: clock === "rate" ? 50 : null };
}

/** The column that a guess is about, by its heading. */
export function headingOf({ field }: Guess, reading: Reading): string {
  return reading.columns[field.split(".")[1] ?? ""]?.heading ?? "";
}

/**
 * A file as understood before, with what is chosen now: what was guessed of another column falls,
 * and a column that is wanted first is told.
 */
export function asChosen(before: Understood, reading: Reading): Understood {
  const clock = clockOf(reading);
  const guesses = before.guesses.filter(
    (guess) => headingOf(guess, before.reading) === headingOf(guess, reading),
  );
  const understood = { ...before, guesses };
  if (reading.columns[clock]?.heading !== "") return { ...understood, reading };
  const message = `choose the column that has the ${clock}`;
  const faults = [{ field: `channels.${clock}`, message }];
  return { ...understood, reading, faults, sentences: [] };
}

/** Whether a reading can be tried: no column of it is still to be chosen. */
export function isChosen(reading: Reading): boolean {
  return Object.values(reading.columns).every(({ heading }) => heading !== "");
}

/**
 * The reading with a channel's column changed; no heading takes the channel out. Another column has
 * a unit and a sign of its own: the server says them, or works them out.
 */
export function withColumn(reading: Reading, name: string, change: Partial<Column>): Reading {
  const known = reading.columns[name];
  const before = known && change.heading === undefined ? known : { heading: "", unit: "" };
  const others = Object.entries(reading.columns).filter(([key]) => key !== name);
  const column = { ...before, ...change };
  const columns = Object.fromEntries(
    column.heading === "" ? others : [...others, [name, column] as const],
  );
  return { ...reading, columns };
}

/** What a positive figure means, as a question's answer. */
export const positiveWords: Record<string, string> = {
  left: "turning left",
  right: "turning right",
  forward: "gaining speed",
  braking: "braking",
};

export interface WantedLap {
  number: number;
  name: string;
  start_s: number;
  end_s: number;
  whole: boolean;
  wanted: boolean;
}

/** The laps found, named after the file, the whole ones wanted; all of a recording of one lap. */
export function wantedLaps(laps: Understood["laps"], fileName: string): WantedLap[] {
  const base = fileName.replace(/\.[^.]+$/, "");
  return laps.map((lap) => ({
    ...lap,
    name: laps.length === 1 ? base : `${base}, lap ${lap.number}`,
    wanted: lap.whole || laps.length === 1,
  }));
}

/** Minutes, seconds and hundredths, as a lap time is said. */
export function lapTime(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  const rest = (seconds - 60 * minutes).toFixed(2);
  return minutes > 0 ? `${minutes}:${rest.padStart(5, "0")}` : `${rest} s`;
}

/** Of what was guessed, what still stands as it was guessed: the rest is the builder's own word. */
export function openGuesses(guesses: readonly Guess[], reading: Reading): Guess[] {
  return guesses.filter(({ field, taken }) => {
    const [, channel = "", what] = field.split(".");
    const column = Object.entries(reading.columns).find(([name]) => name === channel)?.[1];
    return column !== undefined && (what === "unit" ? column.unit : column.positive) === taken;
  });
}

/** All that stands as it was guessed: what was guessed now, and what was before and still stands. */
export function guessedBy(before: readonly Guess[], found: Understood): Guess[] {
  const now = found.guesses.map(({ field }) => field);
  const still = openGuesses(before, found.reading).filter(({ field }) => !now.includes(field));
  return [...still, ...found.guesses];
}
