import type { Drain, DrainsStage, Wall } from "../api/drains";

const SECTION: Drain["section"] = {
  at_mm: 72,
  inside_mm: [
    [
      [-112, -128],
      [112, -128],
      [112, 0],
      [-112, 0],
    ],
  ],
  skirt_mm: [
    [
      [-112, 0],
      [112, 0],
      [112, 80],
      [-112, 80],
    ],
  ],
  metal_mm: [],
  plates_mm: [],
  gates: [],
};

/** A turbo's drain behind an engine across the car, over three moments: it backs up at the second. */
export const DRAIN: Drain = {
  run: "r20",
  component: "c14",
  kind: "turbo",
  name: "drain of the turbo",
  how: "gravity",
  boss: "b19",
  runs: ["r20"],
  size: "size 10",
  points_mm: [
    [96, -196, 150],
    [90, -180, 100],
    [72, -112, -10],
  ],
  bores_mm: [14, 14],
  lengths_mm: [53, 130],
  outlet_mm: 15,
  seal_mm: [96, -196, 176],
  room_cm2: 12,
  foam: 0.4,
  density_kg_m3: 490,
  pieces: [{ name: "drain of the turbo", bore_mm: 14, length_mm: 183, gains_mm: 12 }],
  held_by: "drain of the turbo",
  feed_rpm: [1000, 6000],
  feed_l_min: [0.8, 1.9],
  carries_l_min: 2.4,
  floods_in_s: 0.4,
  spare_mm: -42,
  spare_at_s: 1,
  state: "bad",
  flooded_s: 1.1,
  spilled_ml: 6,
  back_ups: [
    {
      rank: 1,
      start_s: 0.6,
      end_s: 1.7,
      lasts_s: 1.1,
      short_mm: 42,
      worst_at_s: 1,
      load_g: 0.95,
      corner: 3,
      hand: "right",
      place: "in corner 3",
      words: "1.1 s in corner 3, right, at 0.95 g: 42 mm short",
    },
  ],
  rose: { edge_g: Array.from({ length: 8 }, (_, at) => (at === 4 ? 0.6 : null)), limit_g: 1.75 },
  samples: {
    there_mm: [120, 38, 110],
    needed_mm: [30, 80, 30],
    push_mm: [0, 39, 0],
    sealed: [0, 1, 0],
    under_mm: [-50, 63, -40],
    room_mm: [20, -3, 19],
    held_ml: [6, 19, 7],
    flow_l_min: [1.8, 1.8, 1.8],
  },
  fill: [
    [0.3, 0.3, 0.5],
    [1, 1, 1],
    [0.3, 0.3, 0.5],
  ],
  view: "front",
  section: SECTION,
  guesses: ["turbo_foam"],
};

/** Two places of a wall, three heights: the first is under oil at its lowest. */
export const WALL: Wall = {
  around_mm: 200,
  along_mm: [50, 150],
  sides: ["left", "front"],
  heights_mm: [-80, -40, 0],
  clear_mm: [
    [-50, -10, 30],
    [null, -20, 20],
  ],
  in_the_way: [
    [0, 0, 0],
    [0, 0, 1],
  ],
  places_mm: [
    [40, 60],
    [150, -112],
  ],
  marks: [
    {
      kind: "entry",
      name: "drain of the turbo",
      run: "r20",
      along_mm: 150,
      height_mm: -10,
      across_mm: 16,
    },
    { kind: "bolt", name: "", run: "", along_mm: 60, height_mm: 0, across_mm: 8 },
  ],
  wanted_mm: 10,
};

export const DRAINS: DrainsStage = {
  state: 1,
  has_lap: true,
  duration_s: 2,
  words: "On settled oil.",
  verdict: {
    state: "bad",
    spare_mm: -42,
    name: "drain of the turbo",
    sentence: "The drain of the turbo backs up in corner 3, right: 42 mm short.",
    unplaced: 0,
  },
  time_s: [0, 1, 2],
  up: [
    [0, 0, 1],
    [0.5, 0.4, 0.77],
    [0, 0, 1],
  ],
  gravity_g: [0, 0.95, 0],
  level_mm: [-70, -20, -70],
  in_pan_l: 3.7,
  drains: [DRAIN],
  unplaced: [],
  breathing: {
    blow_by_l_min: 48,
    at_rpm: 6400,
    measured: true,
    highest_mbar: 2.6,
    usual_mbar: 2,
    case_mbar: [2, 2.6, 2],
    ways: [
      {
        run: "r13",
        name: "breathing",
        start: "c7",
        end: "c10",
        flow_l_min: 48,
        placed: true,
        under_s: 0.4,
      },
    ],
    carried_ml: 12,
    mist_ml_h: 3,
    mist_band_ml_h: [1, 15],
  },
  wall: WALL,
  checks: [
    {
      state: "bad",
      words: "drain of the turbo is 42 mm of head short at the lap's worst",
      field: "circuit.runs.9",
      mend: null,
      wanted: "Oil stays below the seals of what a drain drains",
      source: "common practice, no published source",
    },
  ],
  guesses: [
    {
      key: "turbo_foam",
      words: "gas in the oil that leaves a turbo",
      likely: 40,
      low: 30,
      high: 50,
      unit: "%",
      source: "ours",
    },
  ],
};
