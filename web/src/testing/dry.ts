import type { Dry, DryOverLap, DryStage } from "../api/dry";

/** A dry sump over a lap of three points, for tests: the front stage sucks air in the left. */
export const OVER: DryOverLap = {
  model: "Moving oil, coarse cells",
  corners: [
    {
      number: 1,
      name: "",
      hand: "left",
      peak_g: 1.2,
      at_s: 11,
      shares: [0.01, 0.6, 0],
      brings: [0.02, 0.98, 0],
      worst: 0.1,
      left_l: 0.7,
    },
    {
      number: 2,
      name: "Mill",
      hand: "right",
      peak_g: 1.1,
      at_s: 12,
      shares: [0.05, 0, 0.5],
      brings: [0.08, 0, 0.92],
      worst: 0.3,
      left_l: 0.5,
    },
  ],
  traces: {
    time_s: [10, 11, 12],
    pan_l: [0.3, 0.7, 0.5],
    tank_l: [5.2, 4.8, 5],
    cover_mm: [180, 120, 150],
    shares: [
      [0.4, 0, 0.1],
      [0.3, 0.6, 0],
      [0.2, 0, 0.5],
    ],
    flows_l_min: [
      [30, 31, 32],
      [30, 31, 32],
      [30, 31, 32],
    ],
    lost_l: 0,
  },
};

const stage = (id: string, name: string, mouth: number): Dry["stages"][number] => ({
  id,
  name,
  displacement_cm3: 10.4,
  drive_ratio: 0.55,
  mouths: [mouth],
});
const mouth = (id: string, x: number, y: number): Dry["mouths"][number] => ({
  id,
  name: id,
  x_mm: x,
  y_mm: y,
  diameter_mm: 25,
});

export const DRY: Dry = {
  sizes: [
    {
      key: "ratio",
      name: "Scavenge over pressure",
      at: "all stages, times",
      field: "",
      wanted: 2,
      wanted_most: 3,
      found: 2.4,
      state: "good",
      why: "",
      source: "from memory: scavenged oil is half gas",
    },
    {
      key: "return_speed",
      name: "Joined line",
      at: "at 8,600 rpm",
      field: "m/s",
      wanted: 5.5,
      wanted_most: null,
      found: 5.6,
      state: "caution",
      why: "The next size up.",
      source: "from memory: faster a joined line holds the stages back",
    },
    {
      key: "tank_oil",
      name: "Oil in the tank",
      at: "to cover its outlet by 60 mm",
      field: "x_l",
      wanted: 2.2,
      wanted_most: null,
      found: null,
      state: "good",
      why: "",
      source: "ours",
    },
  ],
  stages: [
    stage("c1", "front stage", 0),
    stage("c2", "rear right stage", 1),
    stage("c3", "rear left stage", 2),
  ],
  mouths: [mouth("c4", 380, 0), mouth("c5", 20, -80), mouth("c6", 20, 80)],
  tank: {
    id: "c7",
    name: "oil tank",
    volume_l: 8,
    height_mm: 380,
    length_mm: 164,
    width_mm: 164,
    is_round: true,
    outlet: "middle",
    outlet_off_mm: 0,
    has_separator: true,
    has_cooler: true,
  },
  marks: { low_mm: 104, expected_mm: 236, full_mm: 303, litres_a_cm: 0.211 },
  outline_mm: [
    [0, -98],
    [410, -98],
    [410, 98],
    [0, 98],
  ],
  depth_mm: 58,
  over_lap: OVER,
  rose: {
    thrown_deg: [0, 90, 180, 270],
    left_l: [0.8, 0.2, null, 0.2],
    capacity: [1.4, 2.1, 0.9, 2.1],
    load_g: 1.2,
  },
  without: [
    {
      id: "c1",
      name: "front stage",
      left_l: 0.6,
      cover_mm: 118,
      bare_after_s: null,
      thrown_out_l: 0,
    },
    {
      id: "c2",
      name: "rear right stage",
      left_l: 4.1,
      cover_mm: -12,
      bare_after_s: 6.2,
      thrown_out_l: 0,
    },
  ],
  carried: { order: "ahead", joined_pct: 62, cooler_pct: 33, tank_pct: 33, taken_out_pct: 70 },
  drives: [[22, 40]],
  also: ["The old dipstick hole is blanked."],
};

export const DRY_STAGE: DryStage = {
  state: 3,
  has_lap: true,
  lap_name: "lap 7",
  dry: DRY,
  moving: OVER,
  checks: [],
  words: "Stages on the build's own run in moving oil.",
};
