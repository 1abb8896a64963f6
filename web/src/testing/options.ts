import type { LatestStudy, OptionRow, Options, Standing, Study } from "../api/options";

/** What is known of a remedy, for tests: does not hold unless told otherwise. */
export const standingOf = (given: Partial<Standing> = {}): Standing => ({
  state: "does_not",
  rung: "windows",
  rung_words: "moving oil, all windows",
  dry_s: 5.5,
  is_estimate: false,
  under_s: 2.2,
  lowest_bar: 1.7,
  share: 0.34,
  starts: 0,
  mouth_dips: 8,
  pan_l: 4.9,
  words: "Without pressure for 2.2 s a lap.",
  lies: "",
  ...given,
});

/** A row of the table, for tests. */
export const rowOf = (key: string, letter: string, given: Partial<OptionRow> = {}): OptionRow => ({
  key,
  letter,
  title: `Remedy ${key}`,
  group: "oil",
  words: "filled to 7.2 L",
  note: "",
  applies: true,
  reason: "",
  told: true,
  worse: "",
  needs: {
    cost: 16,
    hours: 0.3,
    lead_days: 0,
    weight_kg: 0.9,
    parts: [
      {
        key: "oil",
        words: "engine oil",
        per: "litre",
        count: 1,
        cost: 16,
        lead_days: 0,
        invented: true,
      },
    ],
    operations: [
      {
        key: "top_up",
        words: "pour in oil, run, dip again",
        times: 1,
        hours: 0.3,
        source: "ours: a guess",
        guessed: true,
      },
    ],
  },
  ground_mm: 58,
  ground_spare_mm: 13,
  crank_mm: 21,
  standing: standingOf(),
  ...given,
});

export const OPTIONS: Options = {
  base: standingOf({ rung: "lap", dry_s: 12.1, words: "Without pressure for 4.7 s a lap." }),
  base_ground_mm: 58,
  base_ground_spare_mm: 13,
  rows: [
    rowOf("oil_1", "A"),
    rowOf("gates_2", "B", {
      group: "gates",
      standing: standingOf({
        state: "holds",
        rung: "lap",
        rung_words: "moving oil, whole laps",
        dry_s: 5.6,
        lowest_bar: 3.4,
        starts: 5,
        mouth_dips: 27,
        words: "The gallery keeps at least 3.4 bar in 5 starts.",
      }),
    }),
    rowOf("box_left", "C", {
      applies: false,
      needs: null,
      reason: "no room: the pan would stand 16 mm in the exhaust",
    }),
  ],
  choice: {
    key: "gates_2",
    is_provisional: false,
    is_close: false,
    words: "Remedy gates_2 is the least that holds.",
    margin: 0.07,
    proofs: [
      { key: "starts", words: "5 of 5 starts", keeps: true, share: 0.67 },
      { key: "hot", words: "oil 15 °C hotter", keeps: false, share: 0.56 },
    ],
  },
  scatter_s: 0.3,
  dip_share: 0.6,
  schools: [
    {
      question: "Oil above the mark",
      why: "Only as a measured trial.",
      default: "oil_1",
      other: "gates_2",
      default_title: "1 L over",
      other_title: "Gates",
      default_words: "2.2 s",
      other_words: "none",
    },
  ],
  tried: 2,
  to_try: 2,
};

/** A finished study, for tests. */
export const studyOf = (given: Partial<Study> = {}): Study => ({
  id: 3,
  state: 1,
  is_current: true,
  laps: ["lap 7"],
  off: [],
  off_titles: {},
  own: [],
  progress: {
    status: "finished",
    reason: "",
    ready: true,
    base_reached: 1,
    trials_done: 9,
    trials_known: 9,
    now: [],
    cpu_s: 100,
    wall_s: 60,
  },
  options: OPTIONS,
  ...given,
});

export const LATEST: LatestStudy = { study: studyOf(), has_lap: true };
