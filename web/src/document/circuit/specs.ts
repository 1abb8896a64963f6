import type { Spec } from "../Records";
import type { Kind, LineKind, Run } from "./circuit";

type Figure = Extract<Spec, { kind: "figure" }>;

const open = (key: string, label: string, note?: string): Figure => ({
  kind: "figure",
  key,
  label,
  note,
  mayBeUnknown: true,
});
const figure = (key: string, label: string, note?: string): Figure => ({
  kind: "figure",
  key,
  label,
  note,
});

const HOLDS = open("holds_l", "Oil that it holds", "while the engine runs, hot");
const OPENS = open("opens_bar", "Opens at");
const BORE = open("bore_mm", "Bore");
const STAGE = [
  figure("displacement_cm3", "Displacement per turn"),
  figure("drive_ratio", "Pump turns per crank turn"),
  { kind: "text", key: "driven_by", label: "Driven by" },
] as const;
const FILTER = [HOLDS, open("bypass_bar", "Its bypass opens at")];
const COOLER = [
  HOLDS,
  open("rating_kw", "Rated at"),
  open(
    "rated_over_kelvin",
    "Rated with the oil warmer by",
    "80 K than air, 30 K than water is taken",
  ),
];
const SENSES: Spec = { kind: "part", key: "senses", label: "Opened by the pressure at" };

/** What is asked of each kind of component, beyond its name and its ports. */
export const SPECS: Record<Kind, readonly Spec[]> = {
  pan_region: [],
  pickup: [],
  pressure_stage: STAGE,
  scavenge_stage: STAGE,
  relief: [OPENS, BORE, SENSES],
  regulator: [OPENS, BORE, SENSES],
  sandwich_plate: [open("thermostat_c", "Thermostat opens at", "none where it is not known")],
  take_off_plate: [],
  filter: FILTER,
  remote_filter: [
    {
      kind: "choice",
      key: "filters",
      label: "Filters on it",
      choices: [
        ["1", "one"],
        ["2", "two"],
      ],
    },
    ...FILTER,
  ],
  thermostat: [
    open("opens_c", "Opens at"),
    { kind: "switch", key: "bleeds", label: "Lets a little through while cold" },
  ],
  cooler: COOLER,
  plate_cooler: COOLER,
  water_source: [open("water_c", "Water"), open("flow_l_min", "Its flow")],
  accumulator: [
    figure("volume_l", "Volume, gas and oil"),
    open("precharge_bar", "Pre-charge", "gas alone, at 20 °C (68 °F), on a gauge"),
    open("rating_bar", "Its maker's rating", "a pressure vessel: never over it"),
  ],
  check_valve: [OPENS, BORE],
  shut_off_valve: [
    {
      kind: "choice",
      key: "worked",
      label: "Worked",
      choices: [
        ["by_hand", "by hand"],
        ["electric", "by current"],
      ],
    },
    open("opens_bar", "Opens under", "of an electric one"),
    BORE,
  ],
  restrictor: [figure("bore_mm", "Bore")],
  tee: [],
  sender_tee: [],
  bulkhead: [],
  drain_cock: [],
  cover: [],
  gallery: [HOLDS],
  jets: [figure("count", "How many"), figure("bore_mm", "Bore of each"), OPENS],
  head: [
    HOLDS,
    open("floor_length_mm", "Its floor, along the engine", "where oil lies before it drains"),
    open("floor_width_mm", "Its floor, across"),
    open("wall_height_mm", "Its walls"),
  ],
  timing_chest: [HOLDS],
  turbo: [
    {
      kind: "choice",
      key: "bearing",
      label: "Bearings",
      choices: [
        ["", "not said"],
        ["journal", "plain"],
        ["ball", "ball"],
      ],
    },
    open("drain_bore_mm", "Bore of its drain flange"),
    HOLDS,
  ],
  crankcase: [{ ...HOLDS, note: "spray and film, and what is said nowhere else" }],
  separator: [HOLDS],
  tank: [
    figure("volume_l", "Volume"),
    open("diameter_mm", "Diameter"),
    open("height_mm", "Height"),
    open("length_mm", "Box: along the car"),
    open("width_mm", "Box: across the car"),
    {
      kind: "choice",
      key: "outlet",
      label: "Outlet in its floor",
      choices: [
        ["middle", "middle"],
        ["front", "front"],
        ["rear", "rear"],
        ["left", "left"],
        ["right", "right"],
      ],
    },
    figure("outlet_mm", "Outlet's bore"),
  ],
  catch_can: [figure("volume_l", "Volume")],
  breather: [],
};

const DASH: Spec = {
  kind: "choice",
  key: "dash",
  label: "Size",
  choices: [
    ["", "not a dash size"],
    ...[3, 4, 6, 8, 10, 12, 16, 20, 24].map((size) => [`${size}`, `${size}`] as const),
  ],
};
const LENGTH = open("length_mm", "Length", "along its middle, bends counted");
const OUTSIDE: readonly Spec[] = [
  DASH,
  open("bore_mm", "Bore", "where it is no dash size, or was measured"),
  LENGTH,
  { kind: "switch", key: "sleeve", label: "Sleeved against heat" },
  open("clips_mm", "A clip every"),
];

/** What is asked of each kind of line. */
export const LINES: Record<LineKind, readonly Spec[]> = {
  open: [],
  passage: [open("bore_mm", "Bore"), LENGTH, figure("count", "So many alike")],
  hose: OUTSIDE,
  hard_line: OUTSIDE,
};

export const LINE_WORDS: Record<LineKind, string> = {
  open: "bolted on, or open",
  passage: "cast or drilled passage",
  hose: "hose",
  hard_line: "hard line",
};

export const SERVICES: Record<Run["service"], string> = {
  suction: "suction",
  pressure: "pressure",
  return: "return",
  scavenge: "scavenge",
  drain: "drain",
  vent: "breathing",
  water: "water",
};
