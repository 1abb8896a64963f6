import type { Fit, FitStage, Place, Round } from "../api/fit";

export const placeOf = (id: string, number: number, given: Partial<Place> = {}): Place => ({
  id,
  number,
  name: `pan to ${id}`,
  wanted_mm: 25,
  forecast_mm: 19,
  is_said: false,
  rocks: false,
  at_mm: [100, 50, -60],
  to_mm: [100, 75, -60],
  state: "not_looked",
  accepted: "",
  found: [],
  correction: null,
  ...given,
});

export const roundOf = (number: number): Round => ({
  number,
  means: "printed",
  means_words: "a printed part",
  caution: "It warps.",
  car_on: "stands",
  words: "",
  by: "MK",
  at: "2026-07-12T09:00:00Z",
  closed: null,
});

export const foundOf = (
  round: number,
  gap: number | null,
  touches = false,
): Place["found"][number] => ({
  round,
  touches,
  gap_mm: touches ? 0 : gap,
  done: "",
  photos: [],
  by: "MK",
  at: "2026-07-12T09:10:00Z",
});

const square = (x: number, y: number, size: number): [number, number][] => [
  [x, y],
  [x + size, y],
  [x + size, y + size],
  [x, y + size],
];

const view = (key: string): Fit["frames"][number]["views"][number] => ({
  key,
  pan_mm: [square(0, -100, 100)],
  crank_mm: [],
  beside: [{ id: "k3", name: "exhaust", outline_mm: square(120, -90, 40) }],
  ground_mm: key === "plan" ? [] : [[-200, -160], [300, -160]], // prettier-ignore
});

const PLACES: Place[] = [
  placeOf("k3:pan", 1, { name: "pan to exhaust" }),
  placeOf("ground:pan", 2, { name: "pan to ground", wanted_mm: 45, forecast_mm: 58 }),
];

export const FIT: Fit = {
  rounds: [roundOf(1)],
  places: PLACES,
  open: PLACES.map(({ id }) => id),
  frames: ["car", "engine"].map((frame) => ({
    frame,
    views: ["side", "front", "plan"].map(view),
    places: Object.fromEntries(PLACES.map(({ id, at_mm: at, to_mm: to }) => [id, [at, to]])),
  })) as unknown as Fit["frames"],
  rocks_mm: 6,
  means: {
    printed: ["a printed part", "It warps."],
    cardboard: ["cardboard", "It gives way."],
    tape: ["tape", "It shows where."],
    tack_welded: ["the part, tacked", "The weld draws it."],
    the_part: ["the part itself", "All bolts."],
  } as unknown as Fit["means"],
  subjects: ["pan", "line", "other"],
};

export const FIT_STAGE: FitStage = { state: 3, fit: FIT, refused: [] };
