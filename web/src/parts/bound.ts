import type { System, Units } from "./units";

/** Between a figure and what it is of; a line breaks elsewhere. */
const BETWEEN = /(\d) (?=(?:%|°|[a-zA-Zµ]{1,4}(?:[·³/]|(?![a-zA-Z]))))/g;

/** Words whose figures keep their units: "0.7 s" is never broken over two lines. */
export const bound = (words: string): string => words.replace(BETWEEN, "$1\u00a0");

/** "2 to 3 mm", "5.1 of 8 L", "12 mm": one or two figures and the unit behind them. */
const FIGURES =
  /(?<![\w.,/-])(?:([-−]?\d+(?:\.\d+)?)((?: to| of| and| or|,) ))?([-−]?\d+(?:\.\d+)?) (°C|[a-zA-Z]+(?:\/[a-z]+)?)(?![\w/³²])( ?\w*)/g;

/** Tools and threads are called by their own size, whatever a builder measures in. */
const CALLED = /^ (?:socket|spanner|key|drill|bit|tap|thread|hex)/;

/** Behind which a temperature is a difference. */
const DIFFERS = /^ (?:hotter|cooler|colder|warmer|more|less|over|under|above|below)/;

/** The server's words, which are metric, with their figures in the units that are shown. */
export function inUnits(words: string, units: Units, system: System): string {
  if (system === "metric") return words;
  return words.replace(
    FIGURES,
    (
      all,
      first: string | undefined,
      join: string | undefined,
      last: string,
      unit: string,
      next: string,
    ) => {
      const rows = units.filter((row) => row.metric.label === unit);
      const [row] = rows;
      const isOne = rows.length > 0 && rows.every((each) => each.us.label === row?.us.label);
      if (!row || !isOne || row.us.label === unit || CALLED.test(next)) return all;
      const { scale, label, decimals } = row.us;
      const offset = DIFFERS.test(next) ? 0 : row.us.offset;
      const told = (figure: string): string => {
        const value = scale * Number(figure.replace("−", "-")) + offset;
        return value.toFixed(decimals).replace("-", "−");
      };
      const both = first === undefined ? "" : `${told(first)}${join ?? ""}`;
      return `${both}${told(last)} ${label}${next}`;
    },
  );
}
