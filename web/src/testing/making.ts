import type { FlatPart, Making, Printed } from "../api/making";

export const partOf = (given: Partial<FlatPart> = {}): FlatPart => ({
  key: "panel-1",
  kind: "panel",
  name: "floor 1",
  outline_mm: [
    [-100, -50],
    [100, -50],
    [100, 50],
    [-100, 50],
  ],
  holes_mm: [],
  circles: [],
  bends: [],
  folds_mm: [],
  notes: [
    { words: "1", at_mm: [0, 0] },
    { words: "to 2", at_mm: [90, 0] },
  ],
  nose: [0, 1],
  width_mm: 200,
  height_mm: 100,
  area_cm2: 200,
  cut_mm: 600,
  pierces: 1,
  thickness_mm: 2,
  is_guessed: false,
  about: "Inside dimensions: welded at its inner edges.",
  ...given,
});

const USUAL_PRINT: Printed["asked"] = {
  what: "pan",
  wall_mm: 2.4,
  bed_long_mm: 220,
  bed_wide_mm: 220,
  bed_high_mm: 250,
  bore_mm: null,
  between_mm: 48,
  hole_mm: 6.6,
  thickness_mm: 10,
  tube_deg: 0,
};

export const MAKING: Making = {
  usual_print: USUAL_PRINT,
  parts: [
    partOf(),
    partOf({
      key: "gate-1-1",
      kind: "gate",
      name: "leaf of G1",
      circles: [[10, 10, 6]],
      holes_mm: [
        [
          [0, 0],
          [10, 0],
          [10, 10],
        ],
      ],
      folds_mm: [
        [
          [-100, 30],
          [100, 30],
        ],
      ],
      nose: [0, 0],
      is_guessed: true,
    }),
  ],
  seams: [
    { pair: [1, 2], at_mm: [0, 50, -60], length_mm: 200, bend_deg: 90, bent: false },
    { pair: [1, 3], at_mm: [100, 0, -60], length_mm: 100, bend_deg: 54.2, bent: true },
  ],
  welded_mm: 300,
  thickness_mm: 2,
  radius_mm: 3,
  k_factor: 0.44,
  fault: null,
  gap_mm: 0,
  relief: true,
  metal: null,
  sheet_long_mm: 2000,
  sheet_wide_mm: 1000,
  nests: [{ thickness_mm: 2, sheets: 1, used_pct: 21, too_large: [] }],
  weights: [
    {
      metal: "steel",
      empty_kg: 4.71,
      empty_at_mm: [200, 0, -44],
      with_oil_kg: 8.9,
      with_oil_at_mm: [210, 2, -61],
    },
  ],
  cautions: ["leaf of G1: a hole of 1.0 mm in 2 mm is drilled, not punched or cut"],
};

export const PRINTED: Printed = {
  asked: USUAL_PRINT,
  pieces: 6,
  names: ["pan 1-1", "pan 1-2"],
  size_mm: [457, 267, 140],
  largest_mm: [158, 134, 140],
  solid_cm3: 643.7,
  is_closed: true,
  triangles: 1200,
  about: "The pan as a shell, in pieces.",
};
