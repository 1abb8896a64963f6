import type { Drawing, Placed } from "../drawing/views";

/** A box pan of 400 x 240 x 140 mm as the server draws it, with a bar beside it and a crank. */
export const BOX: Drawing = {
  zones: [
    {
      name: "box",
      outline_mm: [
        [0, -120],
        [400, -120],
        [400, 120],
        [0, 120],
      ],
      floor: [-140, 0, 0],
      top_mm: 0,
      is_open: true,
      is_piece: false,
    },
  ],
  scanned: [],
  faces: [],
  plates: [],
  solid: { vertices_mm: [], tetrahedra: [] },
  rail_mm: [
    [0, -120],
    [400, -120],
    [400, 120],
    [0, 120],
  ],
  side: {
    at_mm: 0,
    inside_mm: [
      [
        [0, -140],
        [400, -140],
        [400, 0],
        [0, 0],
      ],
    ],
    skirt_mm: [],
    metal_mm: [],
    plates_mm: [],
    gates: [],
  },
  front: {
    at_mm: 200,
    inside_mm: [
      [
        [-120, -140],
        [120, -140],
        [120, 0],
        [-120, 0],
      ],
    ],
    skirt_mm: [],
    metal_mm: [],
    plates_mm: [],
    gates: [],
  },
  mouth: { x_mm: 200, y_mm: 0, z_mm: -132, half_length_mm: 20, half_width_mm: 20, is_round: true },
  skirt_height_mm: 0,
  lean_right_deg: 0,
  nose_up_deg: 0,
  nose_points: "front",
  standing: { normal: [0, 0, 1], level_mm: -90, cover_mm: 42 },
  oil_in_pan_l: 5,
  held: {
    rpm: 4000,
    total_l: 2.2,
    pressed_l: 1.3,
    heads_l: 0.5,
    thrown_l: 0.4,
    coming_back_l: 0,
    learned_l: 0,
  },
  capacity_to_rail_l: 13.4,
  level_curve_l_mm: [],
  around: [
    {
      name: "rack",
      index: 0,
      plan_mm: [
        [430, -300],
        [470, -300],
        [470, 300],
        [430, 300],
      ],
      side_mm: [
        [430, -90],
        [470, -90],
        [470, -50],
        [430, -50],
      ],
      front_mm: [
        [-300, -90],
        [300, -90],
        [300, -50],
        [-300, -50],
      ],
    },
  ],
  crank: { height_mm: 60, swept_radius_mm: 80, from_x_mm: 20, to_x_mm: 380 },
};

/** A view of it, a page pixel a millimetre. */
export const placed = (view: Placed["view"]): Placed => ({
  view,
  scale: 1,
  x: 500,
  y: 300,
  box: { left: -400, right: 0, top: -120, bottom: 140 },
});
