import type { FigureTold, FitTold, Learning } from "../../api/learning";
import type { BuildDocument } from "../../api/queries";
import { volumeAs, type Shown, type System, type Units } from "../../parts/units";
import { dayWords } from "../../parts/days";

/** A figure of a fit as it is shown, with its unit. */
export interface ShownFigure {
  value: string;
  give: string;
  before: string;
  unit: string;
}

/** Litres to a hundredth: what is told of oil up top is finer than what is poured. */
const finely = (units: Units, system: System, litres: number): Shown =>
  volumeAs(units, system, litres, 1);

/** A fitted figure in the units that are wanted; litres are the only ones that differ. */
export function shownFigure(told: FigureTold, units: Units, system: System): ShownFigure {
  const give = (told.high - told.low) / 2;
  if (told.unit === "L") {
    const [value, apart, before] = [told.value, give, told.before].map((litres) =>
      finely(units, system, litres),
    );
    return {
      value: value?.figure ?? "",
      give: apart?.figure ?? "",
      before: before?.figure ?? "",
      unit: value?.unit ?? "",
    };
  }
  const fixed = (figure: number): string => figure.toFixed(told.places);
  return {
    value: fixed(told.value),
    give: fixed(give),
    before: fixed(told.before),
    unit: told.unit,
  };
}

/** Where things lie along a figure's line, as shares of its width: a little room at both ends. */
export function placesOf(told: FigureTold): { low: number; high: number; at: number; was: number } {
  const least = Math.min(told.low, told.before);
  const most = Math.max(told.high, told.before);
  const room = (most - least || 1) * 0.08;
  const place = (figure: number): number => (figure - least + room) / (most - least + 2 * room);
  return {
    low: place(told.low),
    high: place(told.high),
    at: place(told.value),
    was: place(told.before),
  };
}

/** Which laps it was fitted to. */
export function lapsWords(laps: Learning["laps"]): string {
  const byDay = new Map<string, string[]>();
  for (const { on, lap } of laps) byDay.set(on, [...(byDay.get(on) ?? []), lap]);
  return [...byDay].map(([on, names]) => `${names.join(" and ")} of ${dayWords(on)}`).join("; ");
}

/** What each lap brings of what is known of the oil up top; nothing where that was not told. */
export function sharesWords(told: FitTold): string {
  const figure = told.figures.find(({ key }) => key === "held_more");
  if (!figure?.tells || told.laps.length < 2) return "";
  const shares = told.laps.map(({ lap }, at) => `${lap} ${figure.by_lap_pct[at]?.toFixed(0)} %`);
  return `What is known of the oil up top came from ${shares.join(" and ")}. `;
}

/** What is to be kept in mind with a fit: what it leans on, what it cannot tell apart. */
export function cautionsOf(told: FitTold): string[] {
  return [
    ...(told.laps.length === 1
      ? ["One lap is all that it rests on: another that dips would tell whether it is so."]
      : told.leans
        ? [
            `It leans on ${told.leans.lap} of ${dayWords(told.leans.on)}: without that lap it would say little.`,
          ]
        : []),
    ...(told.tied.length > 0
      ? [`Not to be told apart by these laps: ${told.tied.join("; and ")}.`]
      : []),
    ...(told.left_bar > 0.5 * told.before_bar
      ? ["Little of the difference goes away with it: something else is at work."]
      : []),
  ];
}

export type LearnedKey = "up_top_more_l" | "sealing_pct" | "gauge_lag_s";

/** What the book told of the car and forecasts rest on: each with its source. */
export function knownOf(
  learned: BuildDocument["learned"],
  units: Units,
  system: System,
): { key: LearnedKey; words: string }[] {
  if (!learned) return [];
  const { up_top_more_l: upTop, sealing_pct: sealing, gauge_lag_s: lag } = learned;
  const litres = (value: number): string => finely(units, system, value).figure;
  return [
    ...(upTop
      ? [
          {
            key: "up_top_more_l" as const,
            words: `Oil up top: ${litres(upTop.value)} ± ${litres(upTop.give)} ${finely(units, system, upTop.value).unit} more than the circuit's parts hold, by ${upTop.source}`,
          },
        ]
      : []),
    ...(sealing
      ? [
          {
            key: "sealing_pct" as const,
            words: `Pump slips on gas under ${sealing.value.toFixed(1)} ± ${sealing.give.toFixed(1)} % of oil, by ${sealing.source}`,
          },
        ]
      : []),
    ...(lag
      ? [
          {
            key: "gauge_lag_s" as const,
            words: `Gauge ${lag.value.toFixed(2)} ± ${lag.give.toFixed(2)} s late, by ${lag.source}`,
          },
        ]
      : []),
  ];
}
