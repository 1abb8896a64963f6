import type { PressureStage } from "../../api/pressure";
import type { Shown } from "../../parts/units";

/** A line over the lap. */
export interface Line {
  values: readonly number[];
  stroke: string;
  width: number;
  dash?: string | undefined;
}

/** Lines that share a scale. */
export interface Lane {
  key: string;
  label: string;
  /** The scale's top, in the lines' own unit; its bottom is nil. */
  most: number;
  lines: readonly Line[];
  /** What stands at a value of it. */
  said: (value: number) => string;
  /** Its share of the height. */
  part: number;
  /** The first line's label is in this ink. */
  ink: string;
}

type Tell = (value: number) => Shown;

const top = (...rows: readonly (readonly number[])[]): number =>
  Math.max(0.1, ...rows.map((row) => Math.max(0, ...row)));

const words =
  (tell: Tell) =>
  (value: number): string => {
    const { figure, unit } = tell(value);
    return `${figure} ${unit}`;
  };

const speed = ({ samples }: PressureStage): Lane => ({
  key: "rpm",
  label: "rpm",
  most: top(samples.rpm) * 1.05,
  lines: [{ values: samples.rpm, stroke: "var(--ink)", width: 1.25 }],
  said: (value) => value.toFixed(0),
  part: 0.8,
  ink: "var(--ink)",
});

const air = ({ samples }: PressureStage): Lane => ({
  key: "air",
  label: "air share",
  most: 1,
  lines: [{ values: samples.mouth_gas, stroke: "var(--air-ink)", width: 1.5 }],
  said: (value) => `${(value * 100).toFixed(0)} %`,
  part: 0.9,
  ink: "var(--air-ink)",
});

/** Forecast in amber, measured in ink over it; what is usual there, and under which it is a dip. */
function gallery({ samples }: PressureStage, dipShare: number, bar: Tell): Lane {
  const measured = samples.measured_bar;
  const wanted = samples.usual_bar.map((usual) => usual * dipShare);
  return {
    key: "gallery",
    label: "gallery",
    most: top(samples.gallery_bar, samples.usual_bar, measured ?? []) * 1.05,
    lines: [
      { values: samples.usual_bar, stroke: "var(--ink-2)", width: 1, dash: "5 3" },
      { values: wanted, stroke: "var(--bad)", width: 1, dash: "1.5 3" },
      ...(measured ? [{ values: measured, stroke: "var(--ink)", width: 1.75 }] : []),
      { values: samples.gallery_bar, stroke: "var(--oil-deep)", width: 2 },
    ],
    said: words(bar),
    part: 2,
    ink: "var(--oil-deep)",
  };
}

const oil = (
  key: string,
  values: readonly number[],
  litres: Tell,
  dash: string | undefined,
): Lane => ({
  key,
  label: key,
  most: top(values) * 1.1,
  lines: [{ values, stroke: "var(--oil-deep)", width: 1.5, dash }],
  said: words(litres),
  part: 0.8,
  ink: "var(--oil-deep)",
});

/** What is told over the lap, from above: rpm, air, the gallery, the bottle, oil up top. */
export function lanesOf(
  stage: PressureStage,
  dipShare: number,
  { bar, litres }: { bar: Tell; litres: Tell },
): Lane[] {
  const { samples } = stage;
  const [charge] = samples.charge_l;
  const upTop = samples.time_s.map((_, at) =>
    samples.held_l.reduce((sum, row) => sum + (row[at] ?? 0), 0),
  );
  return [
    speed(stage),
    air(stage),
    gallery(stage, dipShare, bar),
    ...(charge ? [oil("bottle", charge, litres, undefined)] : []),
    oil("up top", upTop, litres, "6 2"),
  ];
}
