import type { LapDetail, Reading, Understood } from "../api/logs";

const sensor = { turned_left_deg: 0, level_standing: false, ahead_mm: 0, left_mm: 0 };

/** A reading with all that is needed. */
export const READING: Reading = {
  columns: {
    time: { heading: "t", unit: "s" },
    speed: { heading: "v", unit: "km/h" },
    lateral: { heading: "ay", unit: "g", positive: "left" },
    longitudinal: { heading: "ax", unit: "g", positive: "forward" },
    engine_speed: { heading: "n", unit: "rpm" },
  },
  sample_rate_hz: null,
  sensor,
};

/** What the server understood of a file of two whole laps. */
export const UNDERSTOOD: Understood = {
  headings: ["t", "v", "ay", "ax", "n", "az"],
  channels: [
    { name: "time", label: "time", units: ["s", "ms"], positive_choices: [], use: "clock" },
    { name: "distance", label: "distance", units: ["m"], positive_choices: [], use: "clock" },
    { name: "speed", label: "speed", units: ["km/h", "mph"], positive_choices: [], use: "needed" },
    {
      name: "lateral",
      label: "lateral g",
      units: ["g"],
      positive_choices: ["left", "right"],
      use: "needed",
    },
    { name: "vertical", label: "vertical g", units: ["g"], positive_choices: [], use: "extra" },
  ],
  reading: READING,
  remembered: false,
  guesses: [],
  file_words: "Columns parted by commas.",
  faults: [],
  bad_rows: 0,
  bad_row_faults: [],
  sentences: ["This recording turns mostly left."],
  remarks: [],
  doubts: [],
  from_gps: false,
  line_m: [
    [0, 0],
    [100, 0],
    [100, 100],
  ],
  laps: [
    { number: 1, start_s: 0, end_s: 20, whole: false },
    { number: 2, start_s: 20, end_s: 100, whole: true },
    { number: 3, start_s: 100, end_s: 179, whole: true },
  ],
  duration_s: 179,
};

/** A lap to look at, with two corners. */
export const LAP: LapDetail = {
  id: 5,
  name: "lap 5",
  file_name: "tuesday.csv",
  duration_s: 81,
  made_at: "2026-11-25T00:00:00Z",
  sentences: ["This lap turns mostly left."],
  doubts: [],
  line_m: UNDERSTOOD.line_m,
  corners: [
    {
      number: 1,
      name: null,
      hand: "left",
      start_s: 8,
      end_s: 11.7,
      peak_g: 1.24,
      apex_m: [100, 0],
    },
    {
      number: 2,
      name: "Mill bend",
      hand: "right",
      start_s: 17,
      end_s: 21,
      peak_g: 1.1,
      apex_m: [100, 100],
    },
  ],
  corners_edited: true,
  cloud_g: [
    [1.1, 0.2],
    [-0.9, -0.4],
  ],
  held: {
    thrown_deg: [0, 90, 180, 270],
    holds_s: [0.1, 1],
    load_g: [
      [1.1, 1.3, 0.5, 1.2],
      [0.9, 1.2, 0.4, 1],
    ],
  },
  has_vertical: true,
  from_gps: true,
};
