import type { Dry, DryOverLap, DryStage } from "../api/dry";
import type { BuildOut } from "../api/queries";

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
    joined: [0.6, 0.8, 0.7],
    coming_back_l: [0.7, 0.6, 0.5],
    in_cooler: [0.4, 0.55, 0.5],
    into_tank: [0.4, 0.55, 0.5],
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

/** A belt over two pulleys of one size, a hundred apart, the pump's 2 mm out of line. */
export const DRIVE: NonNullable<Dry["drive"]> = {
  ratio: 1,
  wheels: [
    {
      name: "crank",
      across_mm: 0,
      up_mm: 0,
      radius_mm: 30,
      teeth: 24,
      wrap_deg: 180,
      is_inside: true,
    },
    {
      name: "pump",
      across_mm: 100,
      up_mm: 0,
      radius_mm: 30,
      teeth: 24,
      wrap_deg: 180,
      is_inside: true,
    },
  ],
  straights_mm: [
    [
      [0, -30],
      [100, -30],
    ],
    [
      [100, 30],
      [0, 30],
    ],
  ],
  centres_mm: 100,
  belt_teeth: 49,
  belt_mm: 388.5,
  move_mm: 1.75,
  offset_mm: 2,
  out_of_line_deg: 1.146,
  meshing: 12,
  fewest: "crank",
  belt_speed_m_s: 24.5,
  at_rpm: 7800,
  checks: [
    {
      state: "bad",
      words: "The belt runs 1.15° out of line, its pulleys 2.0 mm: shim the pulley",
      field: "drive.offset_mm",
      mend: null,
      wanted: "A toothed belt runs within a quarter of a degree of its pulleys' line",
      source: "from memory: further out it climbs a flange",
    },
  ],
  gaps: [
    { name: "chassis rail", gap_mm: -4, wanted_mm: 10, state: "bad" },
    { name: "engine mount", gap_mm: 22, wanted_mm: 10, state: "good" },
  ],
};

/** The same in the document. */
export const BELT: NonNullable<BuildOut["document"]["drive"]> = {
  pitch_mm: 7.854,
  width_mm: 20,
  crank_teeth: 24,
  pump_teeth: 24,
  belt_teeth: 49,
  across_mm: 100,
  up_mm: 0,
  offset_mm: 2,
  turned_deg: 0,
  tilted_deg: 0,
  travel_mm: 6,
  idler: null,
  crank_x_mm: 450,
  body: { length_mm: 150, diameter_mm: 50 },
  assumed: true,
};

export const DRY: Dry = {
  drive: null,
  shared: [
    {
      names: ["front", "rear"],
      is_built: true,
      starved_s: 12.3,
      one_left_l: 2.6,
      each_left_l: 0.5,
      one_cover_mm: 80,
      each_cover_mm: 140,
    },
  ],
  alike: { restrictors_pct: 3.4, hoses_pct: 0.2 },
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
  marks: {
    low_mm: 104,
    expected_mm: 236,
    full_mm: 303,
    litres_a_cm: 0.211,
    start_falls_mm: 62,
    start_s: 9.4,
    comes_down_l: 1.31,
  },
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
