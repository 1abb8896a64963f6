import type { Act } from "../../api/queries";
import type { System } from "../../parts/units";
import type { Component, Kind } from "./circuit";

/** Acts that fit something to the pan, or move it there. */
export type PanFitKind =
  | "fit_gates"
  | "fit_level_plate"
  | "fit_side_plates"
  | "fit_tray"
  | "fit_scraper"
  | "brace_pickup"
  | "go_dry"
  | "move_pickup"
  | "kick_out";

/** Acts on one line or two ports: asked where those are shown. */
export type PieceKind = "put_in_line" | "join_ports";

/** Acts that fit something to the circuit: each has a form. */
export type FitKind = Exclude<
  Act["kind"],
  | "figures"
  | "spacer"
  | "deepen"
  | "sump_preset"
  | "flange"
  | "turn_gate"
  | "carry_to_wall"
  | "take_out"
  | "plug_port"
  | "calibrate"
  | "tune_accumulator"
  | "tune_drain"
  | "lay_line"
  | "set_port"
  | PieceKind
  | PanFitKind
  | "refill"
  | "learn"
  | "fit_drive"
  | "make_of_sheet"
  | "pan_from_scan"
  | "flange_drawn"
>;

/** Asked only where another answer is one of these. */
type Only = readonly [key: string, ...values: string[]];

/** One thing asked in a form. */
export type Asked =
  | {
      ask: "typed";
      key: string;
      label: string;
      first: Record<System, string>;
      mayBeEmpty?: true;
      only?: Only;
    }
  | {
      ask: "choice";
      key: string;
      label: string;
      choices: readonly (readonly [string, string])[];
      only?: Only;
    }
  | { ask: "switch"; key: string; label: string; first: boolean }
  | {
      ask: "component";
      key: string;
      label: string;
      kinds: readonly Kind[];
      only?: Only;
    };

export interface Fit {
  words: string;
  /** What it is made of, and the schools of the trade. */
  note: string;
  caution?: string;
  asked: readonly Asked[];
}

export const typed = (key: string, label: string, metric: string, us: string): Asked => ({
  ask: "typed",
  key,
  label,
  first: { metric, us },
});
export const maybe = (key: string, label: string, metric = "", us = ""): Asked => ({
  ask: "typed",
  key,
  label,
  first: { metric, us },
  mayBeEmpty: true,
});
const dash = (size: number, label = "Line's size", key = "dash"): Asked => ({
  ask: "choice",
  key,
  label,
  choices: [
    [`${size}`, `${size}`],
    ...[4, 6, 8, 10, 12, 16, 20]
      .filter((each) => each !== size)
      .map((each) => [`${each}`, `${each}`] as const),
  ],
});
const FILL_UP: Asked = {
  ask: "switch",
  key: "fill_up",
  label: "Filled up with as much oil",
  first: true,
};
const LINES = "Oil on a hot exhaust burns: lines stay clear of it, of the damper and of the belt.";

/** Every act that fits something: what it asks, in the order offered. */
export const FITS: Record<FitKind, Fit> = {
  move_filter: {
    words: "Move the filter",
    note: "A take-off plate on the block, a base elsewhere, two lines of size 10 or 12. Ports that are not used are plugged.",
    caution: LINES,
    asked: [
      {
        ask: "choice",
        key: "filters",
        label: "Filters on the base",
        choices: [
          ["1", "one"],
          ["2", "two"],
        ],
      },
      dash(12),
      maybe("holds_l", "Holds with its lines, hot", "0.9 L", "1 qt"),
      FILL_UP,
    ],
  },
  second_filter: {
    words: "A second filter",
    note: "On a remote base that has one.",
    asked: [maybe("holds_l", "It holds, hot", "0.4 L", "0.4 qt"), FILL_UP],
  },
  fit_sandwich_plate: {
    words: "A sandwich plate",
    note: "Under the filter, its ports plugged until a cooler is there.",
    asked: [maybe("thermostat_c", "Thermostat opens at")],
  },
  fit_cooler: {
    words: "An oil cooler",
    note: "In the lines of a remote filter where there are any, else at a plate under the filter; a further one behind the last.",
    caution: `${LINES} A welded or brazed cooler is leak-tested in water, outside and between its circuits.`,
    asked: [
      {
        ask: "choice",
        key: "cooler",
        label: "Cooled by",
        choices: [
          ["air", "air"],
          ["plate", "the engine's water (plates)"],
        ],
      },
      maybe("thermostat_c", "Thermostat opens at", "82 °C", "180 °F"),
      maybe("holds_l", "Holds with its lines, hot", "0.6 L", "0.6 qt"),
      maybe("rating_kw", "Its rating"),
      maybe("rated_over_kelvin", "Rated with the oil warmer by", "50 K", "90 °F"),
      dash(10),
      FILL_UP,
    ],
  },
  fit_accumulator: {
    words: "An accumulator",
    note: "A check valve ahead of its tee keeps the charge for the engine; many leave it out: Pressure shows both, in litres lost. A ball valve by hand is simplest; an electric one where the bottle is out of reach.",
    caution:
      "A pressure vessel: release the pressure before opening anything, never over its rating, keep its relief fitted. Its valve is shut while the pressure is still high.",
    asked: [
      typed("volume_l", "Volume", "2 L", "2 qt"),
      maybe("precharge_bar", "Pre-charge, at 20 °C, 68 °F"),
      {
        ask: "choice",
        key: "at",
        label: "Teed into",
        choices: [
          ["", "the nearest line there is"],
          ["gallery_feed", "the gallery's feed"],
          ["cooler_return", "the cooler's return"],
          ["gallery_tapping", "a tapping of the gallery"],
        ],
      },
      { ask: "switch", key: "check_valve", label: "Check valve ahead of the tee", first: true },
      {
        ask: "choice",
        key: "valve",
        label: "Its valve",
        choices: [
          ["by_hand", "ball valve by hand"],
          ["electric", "electric"],
        ],
      },
      dash(10),
      FILL_UP,
    ],
  },
  fit_regulator: {
    words: "An external regulator",
    note: "In the lines outside the engine, its bypass led back. With the engine's own relief blocked, one valve rules.",
    asked: [
      typed("opens_bar", "Opens at", "5 bar", "75 psi"),
      {
        ask: "choice",
        key: "bypass_to",
        label: "Bypass led to",
        choices: [
          ["pan", "the pan"],
          ["pump_inlet", "the pump's inlet"],
        ],
      },
      { ask: "switch", key: "block_relief", label: "The engine's own relief blocked", first: true },
      dash(10),
    ],
  },
  direct_feed: {
    words: "Feed the gallery directly",
    note: "The line from the remote filter straight into the gallery; the old passage is blocked, or oil goes both ways.",
    asked: [dash(10)],
  },
  fit_jets: {
    words: "Piston jets",
    note: "Those that the engine has, or new ones. Some open at 20 to 30 psi, some at about 48: below that they take no oil.",
    asked: [
      {
        ask: "choice",
        key: "count",
        label: "How many",
        choices: [4, 5, 6, 8, 3, 10, 12].map((each) => [`${each}`, `${each}`] as const),
      },
      typed("bore_mm", "Bore of each", "1.6 mm", "1/16 in"),
      maybe("opens_bar", "Open at", "1.8 bar", "26 psi"),
    ],
  },
  fit_cover: {
    words: "A cover that carries a tapping",
    note: "Over the gallery. Drilled and tapped before it goes on; its gasket's tab and its way up are checked against its mark.",
    asked: [],
  },
  feed_turbo: {
    words: "A turbo, fed and drained",
    note: "From behind the filter through a restrictor of about 2 mm, drained into the pan by gravity: the drain falls all the way and enters above the running oil.",
    caution: "Prime the turbo before the engine fires. Oil on a hot turbine housing burns.",
    asked: [
      {
        ask: "choice",
        key: "fed_from",
        label: "Fed from",
        choices: [
          ["gallery", "the gallery, at the sender"],
          ["line", "the line into the gallery"],
          ["cover", "a cover drilled for it"],
        ],
      },
      {
        ask: "choice",
        key: "bearing",
        label: "Its bearings",
        choices: [
          ["", "not said"],
          ["journal", "plain"],
          ["ball", "ball"],
        ],
      },
      maybe("restrictor_mm", "Restrictor", "2 mm", "2 mm"),
      dash(4, "Feed's size", "feed_dash"),
      dash(10, "Drain's size", "drain_dash"),
    ],
  },
  drain_turbo: {
    words: "Drain a turbo otherwise",
    note: "By gravity into pan or block, pulled by a scavenge stage where it cannot fall, or into another turbo's drain. Two on one stage: each falls to where they meet by itself, or has a stage of its own.",
    asked: [
      { ask: "component", key: "turbo", label: "Which", kinds: ["turbo"] },
      {
        ask: "choice",
        key: "how",
        label: "Drained",
        choices: [
          ["gravity", "by gravity into the pan"],
          ["block", "by gravity into the block"],
          ["scavenged", "by a scavenge stage"],
          ["joined", "into another's drain"],
        ],
      },
      {
        ask: "component",
        key: "other",
        label: "Whose drain",
        kinds: ["turbo"],
        only: ["how", "joined"],
      },
      dash(10),
    ],
  },
  outside_return: {
    words: "An outside return line",
    note: "From a head down to the pan, beside the drains in the block.",
    caution: LINES,
    asked: [{ ask: "component", key: "head", label: "From", kinds: ["head"] }, dash(12)],
  },
  fit_catch_can: {
    words: "A catch can",
    note: "Between crankcase and open air. Drained back, it needs a check valve and a fall.",
    asked: [
      typed("volume_l", "Volume", "2 L", "2 qt"),
      { ask: "switch", key: "drains_back", label: "Drained back into the pan", first: false },
      dash(12),
    ],
  },
  fit_breather: {
    words: "One more breather",
    note: "Gas needs its own way up, or it holds the oil in the head.",
    asked: [
      {
        ask: "component",
        key: "at",
        label: "From",
        kinds: ["head", "crankcase", "timing_chest", "tank"],
      },
      dash(12),
    ],
  },
};

/** What a form holds while it is filled in, by key. */
export type Filled = Readonly<Record<string, string | boolean>>;

/** What one question shows first. */
function firstAnswer(asked: Asked, system: System, parts: readonly Component[]): string | boolean {
  switch (asked.ask) {
    case "typed":
      return asked.first[system];
    case "switch":
      return asked.first;
    case "choice":
      return asked.choices[0]?.[0] ?? "";
    case "component":
      return parts.find(({ kind }) => asked.kinds.includes(kind))?.id ?? "";
  }
}

/** What a form shows first. */
export const firstOf = (fit: Fit, system: System, parts: readonly Component[]): Filled =>
  Object.fromEntries(
    fit.asked.map((asked) => [asked.key, firstAnswer(asked, system, parts)] as const),
  );

/** Whether something is asked, as the rest is answered. */
export function isAsked(asked: Asked, filled: Filled): boolean {
  if (!("only" in asked) || !asked.only) return true;
  const [key, ...values] = asked.only;
  return values.includes(String(filled[key]));
}

/** The act that a form asks for: figures as typed, sizes as numbers, nothing as null. */
export function actOf(kind: Act["kind"], fit: Fit, filled: Filled): Act {
  const given = fit.asked.map((asked) => {
    const { ask, key } = asked;
    const value = isAsked(asked, filled) ? (filled[key] ?? "") : "";
    if (value === "") return [key, null] as const;
    const isNumber = ask === "choice" && typeof value === "string" && /^\d+$/.test(value);
    return [key, isNumber ? Number(value) : value] as const;
  });
  const figures = Object.fromEntries(given) as Record<string, unknown>;
  return { kind, ...figures } as Act;
}
