import type { Point } from "../../drawing/geometry";

/** What can be picked on a picture of a flange, in the order in which it is asked for. */
export const KINDS = ["corners", "outline", "opening", "holes"] as const;
export type Kind = (typeof KINDS)[number];

/** Places picked, in the picture's own pixels. */
export type Picked = Readonly<Record<Kind, readonly Point[]>>;
export const NOTHING: Picked = { corners: [], outline: [], opening: [], holes: [] };

export const WORDS: Readonly<Record<Kind, string>> = {
  corners: "Paper's corners",
  outline: "Outline",
  opening: "Opening",
  holes: "Bolt holes",
};
const CORNERS = ["upper left", "upper right", "lower right", "lower left"] as const;
/** As many as the server takes. */
const MOST: Readonly<Record<Kind, number>> = { corners: 4, outline: 400, opening: 200, holes: 120 };

/** What the next tap is. */
export function nextWords(kind: Kind, picked: Picked): string {
  const many = picked[kind].length;
  if (kind === "corners") {
    const next = CORNERS[many];
    return next ? `Tap the paper's ${next} corner.` : "All four are there: drag what is off.";
  }
  if (many >= MOST[kind]) return `${many} are the most that are taken.`;
  if (kind === "holes") return "Tap the middle of each bolt hole.";
  const ring = kind === "outline" ? "flange's outer edge" : "opening's edge";
  return many === 0 ? `Tap the ${ring}, corner by corner, in order round.` : "Tap the next corner.";
}

/** With one more place, where there is room for it. */
export const withPlace = (picked: Picked, kind: Kind, at: Point): Picked =>
  picked[kind].length >= MOST[kind] ? picked : { ...picked, [kind]: [...picked[kind], at] };

export const movedTo = (picked: Picked, kind: Kind, index: number, at: Point): Picked => ({
  ...picked,
  [kind]: picked[kind].map((each, n) => (n === index ? at : each)),
});

export const without = (picked: Picked, kind: Kind, index: number): Picked => ({
  ...picked,
  [kind]: picked[kind].filter((_, n) => n !== index),
});

/** The kind to go on with once a place is picked: four corners are all of them. */
export const kindAfter = (kind: Kind, picked: Picked): Kind =>
  kind === "corners" && picked.corners.length === 4 ? "outline" : kind;

/** What is lacking still, in words; empty when it can be read. */
export function lacking(picked: Picked): string {
  if (picked.corners.length < 4) return `The paper's corners: ${picked.corners.length} of 4.`;
  if (picked.outline.length < 3) return "The flange's outline, three corners at least.";
  return picked.opening.length > 0 && picked.opening.length < 3
    ? "The opening, three corners at least."
    : "";
}

/** Within the picture, to a tenth of a pixel. */
export const inside = ([x, y]: Point, wide: number, high: number): Point => {
  const held = (value: number, most: number): number =>
    Math.round(Math.min(Math.max(value, 0), most) * 10) / 10;
  return [held(x, wide), held(y, high)];
};
