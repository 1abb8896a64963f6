import type { ReactElement } from "react";

/** Where a part is drawn from above, the nose up, so that it fills a width and is no taller. */
export interface FromAbove {
  height: number;
  scale: number;
  at: (place: readonly number[]) => [across: number, down: number];
}

const EDGE = 18;
const TALLEST = 260;

/** Places are ahead and left [mm]. */
export function fromAbove(corners: readonly (readonly number[])[], width: number): FromAbove {
  const ahead = corners.map(([x]) => x ?? 0);
  const aside = corners.map(([, y]) => y ?? 0);
  const [rear, front] = [Math.min(...ahead), Math.max(...ahead)];
  const [right, left] = [Math.min(...aside), Math.max(...aside)];
  const scale = Math.min((width - 2 * EDGE) / (left - right), TALLEST / (front - rear));
  return {
    height: (front - rear) * scale + 2 * EDGE,
    scale,
    at: ([x = 0, y = 0]) => [
      width / 2 + ((left + right) / 2 - y) * scale,
      EDGE + (front - x) * scale,
    ],
  };
}

/** A closed line through places of a drawing. */
export const closed = ({ at }: FromAbove, ring: readonly (readonly number[])[]): string =>
  `M${ring
    .map((place) =>
      at(place)
        .map((each) => each.toFixed(1))
        .join(" "),
    )
    .join("L")}Z`;

/** Where the nose is: up, at the top of the drawing. */
export function NoseUp({ width }: { width: number }): ReactElement {
  return (
    <>
      <path d={`M${width / 2} 3l4 8h-8z`} fill="var(--ink)" />
      <text x={width / 2 + 9} y={12} fontSize="13" fill="var(--ink)">
        nose
      </text>
    </>
  );
}
