import { dayWords } from "../../parts/days";
import type { Booked, Due, Trend } from "../../api/book";
import type { MarkState } from "../../parts/Mark";
import { shownAs, type System, type Units } from "../../parts/units";

export const MARKS: Readonly<Record<Due["state"], MarkState>> = {
  overdue: "bad",
  due: "caution",
  soon: "caution",
  later: "good",
};

const one = (value: number): string => value.toFixed(1);

/** When it is due, in a few words: the nearer of hours and days. */
export function dueWords(due: Due): string {
  if (due.state === "due") return due.each_session ? "due now, each session" : "due now";
  const hours = due.hours_left;
  const days = due.days_left;
  if (due.state === "overdue")
    return hours !== null && hours < 0
      ? `overdue ${one(-hours)} h`
      : `overdue ${Math.round(-(days ?? 0))} days`;
  if (hours !== null) return `in ${one(hours)} h`;
  if (days !== null) return `in ${Math.round(days)} days`;
  return "each session";
}

/** How often it comes round. */
export function everyWords(due: Due): string {
  const parts = [
    ...(due.each_session ? ["each session"] : []),
    ...(due.every_hours === null ? [] : [`every ${due.every_hours} h`]),
    ...(due.every_days === null ? [] : [`every ${due.every_days} days`]),
  ];
  const isGuess = due.is_usual && (due.every_hours !== null || due.every_days !== null);
  return `${parts.join(" or ")}${isGuess ? ", a guess" : ""}`;
}

export const TRENDS: Readonly<Record<Trend["key"], string>> = {
  oil_used: "Oil used, an hour",
  can: "Catch can, an hour",
  over_ambient: "Oil over ambient",
  lowest: "Lowest pressure",
};

/** What the figures of a trend are stored in, by a field's ending; a can's are in ml. */
export const TREND_FIELDS: Readonly<Record<Trend["key"], string>> = {
  oil_used: "x_l",
  can: "x_ml",
  over_ambient: "x_kelvin",
  lowest: "x_bar",
};

/** A figure of a trend as it is said: the last one, where no other is given. */
export function trendWords(
  trend: Trend,
  units: Units,
  system: System,
  value = trend.points.at(-1)?.[1] ?? 0,
): string {
  const shown = shownAs(units, TREND_FIELDS[trend.key], system, value);
  return `${shown?.figure ?? value.toFixed(0)} ${trendUnit(trend, units, system)}`;
}

/** The unit that a trend's figures are shown and typed in. */
export function trendUnit({ key }: Trend, units: Units, system: System): string {
  const unit = shownAs(units, TREND_FIELDS[key], system, 0)?.unit ?? "ml";
  return key === "oil_used" || key === "can" ? `${unit}/h` : unit;
}

/** What was written, in a few words. */
export function entryWords(entry: Booked): string {
  switch (entry.kind) {
    case "session":
      return `the session of ${dayWords(entry.on)}`;
    case "session_struck":
      return "a session struck";
    case "item":
      return entry.name;
    case "item_dropped":
      return "an item dropped";
    case "hold_up":
      return `the hold-up trial of ${dayWords(entry.on)}`;
    case "trend_limit":
      return `the limit of ${TRENDS[entry.key].toLowerCase()}`;
    case "item_done":
      return `${entry.item} ${entry.how === "renewed" ? "renewed" : "looked at"}`;
  }
}
