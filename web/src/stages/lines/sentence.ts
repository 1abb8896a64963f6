import { dayWords } from "../../parts/days";
import type { Line, LinesStage } from "../../api/lines";
import { lengthAs, type System, type Units } from "../../parts/units";

/** No oil in it, and a hose that goes bare over its barbs. */
export const isBare = ({ service }: Line): boolean => service === "vent" || service === "water";

/** What is most worth knowing of a line, in a sentence. */
export function lineSentence(line: Line, units: Units, system: System): string {
  const named = `Line ${line.number}, ${line.name}`;
  const wrong = line.checks.find(({ state }) => state !== "good");
  if (wrong) return `${named}: ${lower(wrong.words)}`;
  const gap = line.gaps[0];
  if (!gap) return `${named}: sound`;
  const { figure, unit } = lengthAs(units, system, gap.gap_mm);
  return `${named}: ${line.sleeve ? "sleeved, " : ""}${figure} ${unit} clear of the ${gap.name}`;
}

/** The line to look at first: what is bad, then what is laid and not sound, then the first. */
export const worstOf = (lines: readonly Line[]): Line | undefined =>
  lines.find(({ state }) => state === "bad") ??
  lines.find(({ state, points }) => state === "caution" && points.length > 0) ??
  lines[0];

const lower = (words: string): string =>
  /^[A-Z][a-z]/.test(words) ? words.charAt(0).toLowerCase() + words.slice(1) : words;

/** How many lines, how long, and how many are not laid. */
export function allSentence({ lines: { lines } }: LinesStage): string {
  if (lines.length === 0) return "No hose and no hard line in this circuit.";
  const metres = lines.reduce((sum, line) => sum + (line.length_mm ?? 0), 0) / 1000;
  const rough = lines.filter(({ length_mm: length }) => length === null).length;
  const some = lines.length === 1 ? "one line" : `${lines.length} lines`;
  const without = rough === 0 ? "" : `, ${rough} without a length`;
  return `${some}, ${metres.toFixed(1)} m${without}`;
}

/** When work can begin, in words. */
export function beginSentence(stage: LinesStage): string {
  if (stage.lines.order.length === 0) return "Nothing is to be bought.";
  if (stage.to_come === 0) return "Everything is there: work can begin.";
  const on = dayWords(stage.begin_on, { weekday: true });
  return `${stage.to_come} of ${stage.lines.order.length} parts to come; ordered today, the last is there on ${on}.`;
}
