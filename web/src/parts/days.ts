/** Days, as they are written on paper; in one place, so that a year is never left to be guessed. */

/** A moment of what the server tells: a day alone stands for its noon, wherever it is read. */
const momentOf = (at: string): Date => new Date(at.length === 10 ? `${at}T12:00:00` : at);

interface How {
  /** With the day of the week before it. */
  readonly weekday?: boolean;
  /** The month cut to three letters. */
  readonly short?: boolean;
  /** With its year in any case: what is kept as a record. */
  readonly year?: boolean;
  /** Today, for tests. */
  readonly now?: Date;
}

/** The day in words; its year too where that is not this one. */
export function dayWords(at: string, { weekday, short, year, now = new Date() }: How = {}): string {
  const day = momentOf(at);
  return day.toLocaleDateString("en-GB", {
    ...(weekday ? { weekday: "short" } : {}),
    day: "numeric",
    month: short ? "short" : "long",
    ...(!year && day.getFullYear() === now.getFullYear() ? {} : { year: "numeric" }),
  });
}

/** A time of day, on 24 hours. */
export const timeWords = (at: string | number | Date): string =>
  new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** A moment in words: the day, and the time of it. */
export const momentWords = (at: string, now: Date = new Date()): string =>
  `${dayWords(at, { short: true, now })}, ${timeWords(at)}`;

/** The day as this device has it, "2026-11-30". */
export function today(now: Date = new Date()): string {
  const two = (value: number): string => String(value).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
