import type { Judged, PlaceJudged } from "../../api/judged";
import type { Table } from "../../parts/csv";

type Word = PlaceJudged["word"];

/** What each mark stands for, with how many of them there are. */
export function countWords(judged: Judged): { word: Word; count: number; words: string }[] {
  const named = (word: Word): string =>
    judged.places
      .filter((place) => place.word === word)
      .map(({ name }) => name)
      .join(", ");
  const late = judged.places.flatMap(({ late_s: each }) => (each === null ? [] : [Math.abs(each)]));
  const within =
    late.length > 0
      ? `, within ${(Math.ceil(Math.max(...late) * 20) / 20 || 0.05).toFixed(2)} s`
      : "";
  const { count } = judged;
  const rows: { word: Word; count: number; words: string }[] = [];
  const misses = count.met - count.foreseen;
  const unseen = judged.places.filter(({ word }) => word === "not_shown").length;
  const several = (n: number, one: string, more: string): string => (n === 1 ? one : more);
  if (count.foreseen > 0)
    rows.push({
      word: "hit",
      count: count.foreseen,
      words: `${several(count.foreseen, "hit", "hits")}${within}`,
    });
  if (misses > 0)
    rows.push({
      word: "miss",
      count: misses,
      words: judged.count.has_forecast
        ? `${several(misses, "miss", "misses")}, ${named("miss")}`
        : "measured",
    });
  if (count.false_alarms > 0)
    rows.push({
      word: "false_alarm",
      count: count.false_alarms,
      words: `${several(count.false_alarms, "false alarm", "false alarms")}, ${named("false_alarm")}`,
    });
  if (unseen > 0)
    rows.push({
      word: "not_shown",
      count: unseen,
      words: `too short for this sensor, ${named("not_shown")}`,
    });
  return rows;
}

/** Seconds with a sign, as they are said: later is plus. */
export const lateWords = (late: number | null): string =>
  late === null ? "" : `${late < 0 ? "−" : "+"}${Math.abs(late).toFixed(2)} s`;

/** A place as it stands on the drawing: its number and its hand. */
export const placeMark = ({ number, hand, name }: PlaceJudged): string =>
  number === null ? name : `${number}${hand === "left" ? " L" : hand === "right" ? " R" : ""}`;

/** What came unforeseen in a corner is a place by itself. */
export const keyOf = ({ name, word }: PlaceJudged): string => `${name} ${word === "miss"}`;

/** Whether a dip of a lap is one of a place's. */
export const isOf = (dip: { number: number | null; word: Word }, place: PlaceJudged): boolean =>
  dip.number === place.number && (dip.word === "miss") === (place.word === "miss");

/** All dips of all laps as figures. */
export const judgedTable = (judged: Judged): Table => ({
  title: "Dips of the gallery, measured and forecast",
  headings: [
    "lap",
    "corner",
    "what",
    "from [s]",
    "to [s]",
    "later [s]",
    "lowest [bar]",
    "forecast [bar]",
  ],
  rows: judged.laps.flatMap((lap) =>
    lap.dips.map((dip) => [
      lap.name,
      dip.number ?? "straight",
      dip.word.replace("_", " "),
      dip.start_s,
      dip.end_s,
      dip.late_s ?? "",
      dip.lowest_bar ?? "",
      dip.forecast_bar ?? "",
    ]),
  ),
});
