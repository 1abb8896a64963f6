import type { FlatPart, Making } from "../api/making";

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
  thickness_mm: 2,
  is_guessed: false,
  about: "Inside dimensions: welded at its inner edges.",
  ...given,
});

export const MAKING: Making = {
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
    { pair: [1, 2], length_mm: 200, bend_deg: 90, bent: false },
    { pair: [1, 3], length_mm: 100, bend_deg: 54.2, bent: false },
  ],
  welded_mm: 300,
  thickness_mm: 2,
  radius_mm: 3,
  k_factor: 0.44,
};
