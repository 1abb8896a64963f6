import { driveFit } from "./driveFit";
import { FITS, maybe, typed, type Fit, type FitKind, type PanFitKind } from "./circuit/fits";

/** Acts that have a form: on the circuit, on the pan, a dry sump's belt, oil poured to a total. */
export type AnyFitKind = FitKind | PanFitKind | "fit_drive" | "refill";

const LEAF = {
  ask: "choice",
  key: "leaf",
  label: "Gates of",
  choices: [
    ["rubber", "rubber: seals well, ages"],
    ["metal", "metal: lasts, leaks"],
  ],
} as const;

/** Every act that fits something to the pan: what it asks, in the order offered. */
export const PAN_FITS: Record<PanFitKind, Fit> = {
  fit_gates: {
    words: "Plates with gates round the pickup",
    note: "A box off the pan's walls, half as high as the sump. Gates swing toward the pickup only; a lid keeps the oil from climbing out.",
    asked: [
      {
        ask: "choice",
        key: "gates",
        label: "Gates",
        choices: [
          ["3", "three"],
          ["2", "two"],
          ["4", "four"],
        ],
      },
      LEAF,
      { ask: "switch", key: "lid", label: "A lid over the box", first: true },
      maybe("top_depth_mm", "Upper edge below the rail"),
      typed("beside_mm", "Walls from the mouth's middle", "86 mm", "3 3/8 in"),
    ],
  },
  fit_side_plates: {
    words: "Upright plates beside the pickup",
    note: "Along the sump, one on each side, open low down; with gates, oil comes in and stays.",
    asked: [
      { ask: "switch", key: "gated", label: "With a gate each", first: true },
      LEAF,
      typed("beside_mm", "From the mouth's middle", "62 mm", "2 1/2 in"),
      maybe("top_depth_mm", "Upper edge below the rail"),
    ],
  },
  fit_level_plate: {
    words: "A level plate over the sump",
    note: "At about the oil's level, open only over the pickup. Left empty, Bilge takes its own height and an opening for what the pump asks.",
    asked: [
      maybe("depth_mm", "Below the rail"),
      maybe("opening_mm", "Side of the opening over the mouth"),
    ],
  },
  fit_tray: {
    words: "A windage tray",
    note: "Close under the crank's sweep and clear of it, louvred. Needs the crank, under Car.",
    asked: [
      {
        ask: "choice",
        key: "open_pct",
        label: "Open share of its area",
        choices: [
          ["35", "35 %"],
          ["20", "20 %"],
          ["50", "50 %"],
        ],
      },
    ],
  },
  fit_scraper: {
    words: "A crank scraper",
    note: "Along the crank's sweep, on the side where its throws go down. What it saves is not known: the forecast does not move. Needs the crank, under Car.",
    asked: [
      {
        ask: "choice",
        key: "side",
        label: "On the",
        choices: [
          ["right", "right"],
          ["left", "left"],
        ],
      },
      typed("gap_mm", "Off the crank's sweep", "1.5 mm", "1/16 in"),
    ],
  },
  brace_pickup: {
    words: "A brace at the pickup's tube",
    note: "A pickup held at its bell alone flexes and cracks along its edge. The forecast does not move.",
    asked: [],
  },
  go_dry: {
    words: "A dry sump",
    note: "A shallow pan within the same rail, a scavenge pickup and a stage for each place, a tank that the pump draws from, and the lines between. Sizes are plausible and invented: everything is edited one by one afterwards.",
    caution:
      "The tank sits where neither a wheel nor a wall reaches it in a crash. The class's rules decide whether it may be fitted.",
    asked: [
      typed("depth_mm", "Pan's depth below the rail", "70 mm", "2 3/4 in"),
      {
        ask: "choice",
        key: "pickups",
        label: "Scavenge pickups",
        choices: [
          ["3", "three: front, rear left and right"],
          ["2", "two: front and rear"],
          ["4", "four: in the corners"],
        ],
      },
      typed("tank_l", "Tank", "9 L", "2 1/2 gal"),
      {
        ask: "choice",
        key: "separator",
        label: "Separator",
        choices: [
          ["ahead", "ahead of the cooler: dense oil cools better"],
          ["after", "behind the cooler"],
          ["none", "none, a larger swirl tank"],
        ],
      },
      { ask: "switch", key: "cooler", label: "A cooler in the return", first: true },
      {
        ask: "choice",
        key: "turbos",
        label: "Turbos drain",
        choices: [
          ["pan", "into the pan, as before"],
          ["own_stage", "to a stage of their own"],
        ],
      },
    ],
  },
  move_pickup: {
    words: "The pickup somewhere else",
    note: "Its gap is kept, and what is open over it in a lid goes with it. Minus is back, or to the right.",
    asked: [
      typed("ahead_mm", "Ahead by", "0 mm", "0 in"),
      typed("left_mm", "To the left by", "30 mm", "1 in"),
    ],
  },
  kick_out: {
    words: "A side box on the sump",
    note: "As deep as the sump, closed half way up; one that is there gets wider. Without more oil it gains nothing: fill up too.",
    asked: [
      {
        ask: "choice",
        key: "side",
        label: "On the",
        choices: [
          ["left", "left"],
          ["right", "right"],
        ],
      },
      typed("width_mm", "Wider by", "40 mm", "1 1/2 in"),
    ],
  },
};

const REFILL: Fit = {
  words: "Oil poured to a total",
  note: "Above the mark only as a measured trial, with the crank's clearance looked at.",
  asked: [typed("to_l", "In the engine, all told", "7 L", "7 1/2 qt")],
};

export const ALL_FITS: Record<AnyFitKind, Fit> = {
  ...FITS,
  ...PAN_FITS,
  fit_drive: driveFit(),
  refill: REFILL,
};

export const CIRCUIT_KINDS = Object.keys(FITS) as FitKind[];
export const PAN_KINDS = Object.keys(PAN_FITS) as PanFitKind[];
export const ALL_KINDS: readonly AnyFitKind[] = ["refill", ...PAN_KINDS, ...CIRCUIT_KINDS];
