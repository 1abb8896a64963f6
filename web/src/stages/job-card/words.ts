import { dayWords as dayInWords, momentWords, timeWords } from "../../parts/days";
import type { Entry, Step, StepState } from "../../api/job";
import type { MarkState } from "../../parts/Mark";

const MINUTES = 60;

/** Hours as a hand says them: "25 min", "1 h 30". */
export function longWords(hours: number): string {
  const minutes = Math.round(hours * MINUTES);
  if (minutes < MINUTES) return `${minutes} min`;
  const rest = minutes % MINUTES;
  return `${Math.floor(minutes / MINUTES)} h${rest ? ` ${String(rest).padStart(2, "0")}` : ""}`;
}

/** What is left until a moment, by the second: "1:12:40". */
export function leftWords(until: number, now: number): string {
  const seconds = Math.max(0, Math.ceil((until - now) / 1000));
  const two = (value: number): string => String(value).padStart(2, "0");
  const days = Math.floor(seconds / 86_400);
  const clock = `${Math.floor((seconds % 86_400) / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return days > 0 ? `${days} d ${clock}` : clock;
}

const LBF_FT = 1.3558179483314004; // [N m], NIST SP 811
const TORQUE =
  /^\s*(\d+(?:[.,]\d+)?)\s*(n\W?m|lbs?f?\W?\s?in|lbs?f?\W?\s?ft|in\W?lbs?f?|ft\W?lbs?f?)?\s*$/i;

/** A torque as typed, in N m; bare figures are N m. Null where it is none. */
export function torqueOf(typed: string): number | null {
  const [, figure, unit = "nm"] = TORQUE.exec(typed) ?? [];
  if (figure === undefined) return null;
  const plain = unit.toLowerCase();
  const each = plain.includes("ft") ? LBF_FT : plain.includes("in") ? LBF_FT / 12 : 1;
  const found = Number(figure.replace(",", ".")) * each;
  return found > 0 && found <= 2000 ? found : null;
}

/** A time of day; with the day where it is another. */
export function clockWords(at: string | number | Date, now: number): string {
  const when = new Date(at);
  if (when.toDateString() === new Date(now).toDateString()) return timeWords(when);
  return momentWords(when.toISOString(), new Date(now));
}

export const dayWords = (at: string): string => dayInWords(at, { weekday: true, short: true });

export const MARKS: Readonly<Record<StepState, MarkState>> = {
  done: "good",
  overridden: "caution",
  ready: "started",
  shut: "nothing",
  stopped: "bad",
  blocked: "nothing",
  later: "nothing",
};

/** How a step stands, in a few words. */
export function standWords(step: Step, now: number): string {
  switch (step.state) {
    case "done":
      return step.at ? clockWords(step.at, now) : "done";
    case "overridden":
      return "passed without";
    case "shut":
      return step.until ? `shut until ${clockWords(step.until, now)}` : "shut";
    case "stopped":
      return "stopped";
    default:
      return step.wait_h > 0 || step.wait_days > 0
        ? `${longWords(step.hours)}, then ${step.wait_days > 0 ? `${step.wait_days} days` : longWords(step.wait_h)}`
        : longWords(step.hours);
  }
}

/** What was entered, in a few words. */
export function entryWords(entry: Entry): string {
  switch (entry.kind) {
    case "ticked":
      return `done, ${entry.words || entry.step}`;
    case "unticked":
      return `taken back, ${entry.step}`;
    case "bolt_tight":
      return `bolt ${entry.bolt + 1} tight`;
    case "bolt_loose":
      return `bolt ${entry.bolt + 1} taken back`;
    case "wait_over":
      return "a wait that is over";
    case "overridden":
      return "a gate passed without";
    case "noted":
      return "a note";
    case "found_bad":
      return "a part found bad";
    case "put_right":
      return "a part put right";
  }
}
