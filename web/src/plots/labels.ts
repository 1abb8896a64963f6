/** Where words on a plot stand in the way of least. */
export type Place = readonly [number, number];

export interface LabelBox {
  width: number;
  height: number;
}

/** Whether a place is inside a closed ring of places (ray casting). */
export function isInside(ring: readonly Place[], [x, y]: Place): boolean {
  let inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [xi, yi] = ring[i] ?? [0, 0];
    const [xj, yj] = ring[j] ?? [0, 0];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

const cornersOf = ([x, y]: Place, { width, height }: LabelBox): Place[] =>
  [-0.5, 0, 0.5].flatMap((u) => [-0.5, 0.5].map((v): Place => [x + u * width, y + v * height]));

/** Distance from a box round `centre` to a place; nil inside it. */
const gap = ([cx, cy]: Place, { width, height }: LabelBox, [x, y]: Place): number =>
  Math.hypot(Math.max(0, Math.abs(x - cx) - width / 2), Math.max(0, Math.abs(y - cy) - height / 2));

/**
 * The candidate whose box lies wholly where it may and covers the fewest marks; of those alike the
 * one farthest from what must stay clear. Null when there is no room.
 */
export function placeLabel(
  box: LabelBox,
  candidates: readonly Place[],
  may: (corner: Place) => boolean,
  marks: readonly Place[],
  clear: readonly Place[],
): Place | null {
  let best: { place: Place; covered: number; far: number } | null = null;
  for (const place of candidates) {
    if (!cornersOf(place, box).every(may)) continue;
    const far = Math.min(60, ...clear.map((other) => gap(place, box, other)));
    if (far < 6) continue;
    const covered = marks.filter((mark) => gap(place, box, mark) < 2).length;
    if (!best || covered < best.covered || (covered === best.covered && far > best.far))
      best = { place, covered, far };
  }
  return best?.place ?? null;
}

/** Candidates over a disc: rings of places round its centre. */
export function overDisc(centre: Place, radius: number): Place[] {
  const places: Place[] = [];
  for (const share of [0.25, 0.4, 0.55, 0.7, 0.82])
    for (let k = 0; k < 24; k++) {
      const angle = (k * Math.PI) / 12;
      places.push([
        centre[0] + share * radius * Math.cos(angle),
        centre[1] + share * radius * Math.sin(angle),
      ]);
    }
  return places;
}

/** Candidates on a ring. */
export const overRing = (centre: Place, radius: number): Place[] =>
  Array.from({ length: 16 }, (_, k): Place => {
    const angle = ((k + 0.5) * Math.PI) / 8;
    return [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)];
  });

/** Places that stand for a box: its corners and the middles of its sides. */
export const aroundBox = (centre: Place, box: LabelBox): Place[] => [
  ...cornersOf(centre, box),
  [centre[0] - box.width / 2, centre[1]],
  [centre[0] + box.width / 2, centre[1]],
];
