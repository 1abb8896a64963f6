/** The twelve stages of the job in the order of the work. */
export interface Stage {
  key: string;
  name: string;
  ready: boolean;
  /** What it will do, for the page of one that is to come. */
  words: string;
}

export const GROUPS: { name: string; stages: Stage[] }[] = [
  {
    name: "Measure",
    stages: [
      { key: "car", name: "Car", ready: true, words: "" },
      { key: "pan", name: "Pan", ready: true, words: "" },
      { key: "loads", name: "Loads", ready: true, words: "" },
    ],
  },
  {
    name: "Forecast",
    stages: [
      { key: "slosh", name: "Slosh", ready: true, words: "" },
      {
        key: "pressure",
        name: "Pressure",
        ready: false,
        words: "Gallery pressure over the lap, measured over forecast, and the accumulator.",
      },
      {
        key: "drains",
        name: "Drains",
        ready: false,
        words: "Every drain from head and turbo: the head of oil it has, and when it backs up.",
      },
    ],
  },
  {
    name: "Decide",
    stages: [
      {
        key: "options",
        name: "Options",
        ready: false,
        words:
          "Remedies side by side: what each buys, costs and needs, and the smallest that holds.",
      },
      {
        key: "dry-sump",
        name: "Dry sump",
        ready: false,
        words: "Stages, drive, tank and separator, sized and laid over the lap.",
      },
      {
        key: "lines",
        name: "Lines",
        ready: false,
        words: "Every run from port to port: ends, size, length, bends, and the shopping list.",
      },
    ],
  },
  {
    name: "Do",
    stages: [
      {
        key: "fit",
        name: "Fit",
        ready: false,
        words: "Rounds of test fitting: what touches, which gap was wanted and found.",
      },
      {
        key: "job-card",
        name: "Job card",
        ready: false,
        words: "The work in order, with torque, timers, cautions and sign-off.",
      },
      {
        key: "track-book",
        name: "Track book",
        ready: false,
        words: "Sessions, levels and pressure dips beside the forecast, and what is due.",
      },
    ],
  },
];

export const stageOf = (key: string): Stage | undefined =>
  GROUPS.flatMap((group) => group.stages).find((stage) => stage.key === key);
