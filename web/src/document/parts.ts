import type { BuildDocument } from "../api/queries";
import type { Spec } from "./Records";
import { depthsOf } from "./edges";
import { NOT_GIVEN } from "./ids";

export type Pan = BuildDocument["pan"];
export type Boss = Pan["bosses"][number];
export type KeepOut = BuildDocument["car"]["keep_outs"][number];

export const BOSS_KINDS = [
  ["drain_plug", "drain plug"],
  ["level_sensor", "level sensor"],
  ["dipstick", "dipstick tube"],
  ["turbo_drain", "turbo drain"],
  ["return", "other return"],
  ["other", "other"],
] as const;

export const BOSS_SPECS: readonly Spec[] = [
  { kind: "text", key: "name", label: "Name" },
  { kind: "choice", key: "kind", label: "What it is", choices: BOSS_KINDS },
  { kind: "figure", key: "x_mm", label: "Ahead of the rear face" },
  { kind: "figure", key: "y_mm", label: "Left of the centreline" },
  { kind: "figure", key: "depth_mm", label: "Below the rail" },
  { kind: "figure", key: "bore_mm", label: "Bore" },
  {
    kind: "choice",
    key: "fixing",
    label: "Fixed by",
    choices: [
      ["as_made", "as made"],
      ["welded_boss", "a welded boss"],
      ["through_fitting", "a through-fitting"],
      ["tapped", "a thread in the wall"],
    ],
  },
  { kind: "switch", key: "blocked", label: "Blocked, out of use" },
];

/** The lowest flat floor's depth, where a plug goes. */
export const deepest = (pan: Pan): number =>
  Math.max(...pan.zones.map(({ floor }) => depthsOf(floor).most));

/** A boss to be given its real place. */
export function newBoss(document: BuildDocument, kind: Boss["kind"], name: string): Boss {
  const { x_mm, y_mm } = document.pickup;
  const depth_mm = kind === "drain_plug" ? deepest(document.pan) : kind === "dipstick" ? 0 : 20;
  return {
    kind,
    id: NOT_GIVEN,
    name,
    x_mm,
    y_mm,
    depth_mm,
    bore_mm: 14,
    fixing: "as_made",
    blocked: false,
  };
}

const place = (key: "from_mm" | "to_mm", which: string): Spec[] => [
  { kind: "figure", key: `${key}.0`, label: `${which}, ahead of the rail's rear face` },
  { kind: "figure", key: `${key}.1`, label: `${which}, left of the centreline` },
  { kind: "figure", key: `${key}.2`, label: `${which}, above the rail (minus: below)` },
];

/** What can be said of a keep-out of each shape. */
export function keepOutSpecs(keepOut: KeepOut): readonly Spec[] {
  const common: Spec[] = [
    { kind: "text", key: "name", label: "Name" },
    {
      kind: "choice",
      key: "frame",
      label: "Measured along",
      choices: [
        ["car", "the car"],
        ["engine", "the engine"],
      ],
    },
    { kind: "figure", key: "wanted_mm", label: "Gap wanted" },
  ];
  if (keepOut.kind === "plane")
    return [
      ...common,
      {
        kind: "choice",
        key: "free",
        label: "The pan stays",
        choices: [
          ["above", "above it"],
          ["below", "below it"],
          ["ahead", "ahead of it"],
          ["behind", "behind it"],
          ["left", "left of it"],
          ["right", "right of it"],
        ],
      },
      { kind: "figure", key: "at_mm", label: "Where it lies along that way" },
    ];
  if (keepOut.kind === "box")
    return [
      ...common,
      ...place("from_mm", "Rear right lower corner"),
      ...place("to_mm", "Other corner"),
    ];
  return [
    ...common,
    { kind: "figure", key: "diameter_mm", label: "Diameter" },
    ...place("from_mm", "One end"),
    ...place("to_mm", "Other end"),
  ];
}

/** A crank as it may be, to be measured. */
export const USUAL_CRANK: NonNullable<BuildDocument["car"]["crank"]> = {
  height_mm: 60,
  swept_radius_mm: 80,
  from_x_mm: 40,
  to_x_mm: 400,
  assumed: true,
};

/** What is commonly round a pan, each where it may be, to be given its real place. */
export const USUAL_KEEP_OUTS: readonly { words: string; make: () => KeepOut }[] = [
  {
    words: "Subframe",
    make: () => ({
      kind: "box",
      id: NOT_GIVEN,
      name: "subframe",
      frame: "car",
      from_mm: [-60, -300, -140],
      to_mm: [0, 300, -90],
      wanted_mm: 10,
      assumed: true,
    }),
  },
  {
    words: "Steering rack",
    make: () => ({
      kind: "cylinder",
      id: NOT_GIVEN,
      name: "steering rack",
      frame: "car",
      from_mm: [560, -300, -60],
      to_mm: [560, 300, -60],
      diameter_mm: 45,
      wanted_mm: 8,
      assumed: true,
    }),
  },
  {
    words: "Crank damper",
    make: () => ({
      kind: "cylinder",
      id: NOT_GIVEN,
      name: "crank damper",
      frame: "engine",
      from_mm: [500, 0, 60],
      to_mm: [560, 0, 60],
      diameter_mm: 160,
      wanted_mm: 10,
      assumed: true,
    }),
  },
  {
    words: "Exhaust",
    make: () => ({
      kind: "cylinder",
      id: NOT_GIVEN,
      name: "exhaust",
      frame: "car",
      from_mm: [-100, 240, -120],
      to_mm: [400, 240, -120],
      diameter_mm: 60,
      wanted_mm: 25,
      assumed: true,
    }),
  },
  {
    words: "Starter",
    make: () => ({
      kind: "box",
      id: NOT_GIVEN,
      name: "starter",
      frame: "engine",
      from_mm: [-40, -230, -60],
      to_mm: [160, -150, 20],
      wanted_mm: 6,
      assumed: true,
    }),
  },
  {
    words: "Bell housing",
    make: () => ({
      kind: "box",
      id: NOT_GIVEN,
      name: "bell housing",
      frame: "engine",
      from_mm: [-160, -180, -150],
      to_mm: [-12, 180, 150],
      wanted_mm: 5,
      assumed: true,
    }),
  },
  {
    words: "Bonnet",
    make: () => ({
      kind: "plane",
      id: NOT_GIVEN,
      name: "bonnet",
      frame: "car",
      at_mm: 600,
      free: "below",
      wanted_mm: 20,
      assumed: true,
    }),
  },
  {
    words: "Skid plate",
    make: () => ({
      kind: "plane",
      id: NOT_GIVEN,
      name: "skid plate",
      frame: "car",
      at_mm: -200,
      free: "above",
      wanted_mm: 10,
      assumed: true,
    }),
  },
];
