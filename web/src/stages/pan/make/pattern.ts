import type { FlatPart } from "../../../api/making";

/** A part's box on the page [px], and how large it is drawn. */
export interface Fit {
  scale: number;
  width: number;
  height: number;
  /** From the part's own millimetres to the page, up the page. */
  at: (place: readonly number[]) => [number, number];
}

/** A part fitted into a box, with a margin all round. */
export function fitted(part: FlatPart, width: number, height: number, margin: number): Fit {
  const xs = part.outline_mm.map(([x]) => x);
  const ys = part.outline_mm.map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.max(...ys)];
  const scale = Math.min(
    (width - 2 * margin) / Math.max(part.width_mm, 1),
    (height - 2 * margin) / Math.max(part.height_mm, 1),
    2,
  );
  return {
    scale,
    width: part.width_mm * scale + 2 * margin,
    height: part.height_mm * scale + 2 * margin,
    at: ([x = 0, y = 0]) => [margin + (x - left) * scale, margin + (top - y) * scale],
  };
}

/** A ring as a path. */
export const ringPath = (fit: Fit, ring: readonly (readonly number[])[]): string =>
  `M${ring
    .map((place) =>
      fit
        .at(place)
        .map((each) => each.toFixed(1))
        .join(" "),
    )
    .join("L")}Z`;

/** Bends of a piece in a sentence. */
export function bendsSentence({ bends }: FlatPart): string {
  if (bends.length === 0) return "";
  const up = bends.filter((bend) => bend.up).length;
  const down = bends.length - up;
  const many = (count: number, way: string): string =>
    `${count} bend${count === 1 ? "" : "s"} ${way}`;
  return [up ? many(up, "toward you") : "", down ? many(down, "away from you") : ""]
    .filter((words) => words !== "")
    .join(", ");
}
