import type { ReactElement } from "react";
import type { ShelfRow } from "../../api/queries";
import { boxOf, clipRing, pathOf, type Point } from "../../drawing/geometry";

/** A small side section with the oil as it stands, nose left. */
export function Thumbnail({ row }: { row: ShelfRow }): ReactElement | null {
  const { side, mouth, standing } = row;
  if (!side || !mouth || !standing) return null;
  const all = side.inside_mm.flat();
  const box = boxOf(all);
  const width = 120;
  const height = 52;
  const scale = Math.min(
    (width - 8) / (box.right - box.left),
    (height - 8) / (box.bottom - box.top),
  );
  const place = ([x, z]: Point): Point => [
    width / 2 - (x - (box.left + box.right) / 2) * scale,
    6 - (z - box.bottom) * scale,
  ];
  const [nx, ny, nz] = standing.normal;
  const half = { a: nx, b: nz, c: standing.level_mm - ny * side.at_mm };
  const r = mouth.half_length_mm;
  const bell: Point[] = [
    [mouth.x_mm - r, mouth.z_mm],
    [mouth.x_mm + r, mouth.z_mm],
    [mouth.x_mm + r * 0.4, mouth.z_mm + r],
    [mouth.x_mm + r * 0.4, 0],
    [mouth.x_mm - r * 0.4, 0],
    [mouth.x_mm - r * 0.4, mouth.z_mm + r],
  ];
  return (
    <svg width={width} height={height} aria-hidden="true" className="shrink-0">
      {side.inside_mm.map((ring, index) => (
        <g key={index}>
          <path d={pathOf(clipRing(ring, half).map(place))} fill="var(--oil)" />
          <path d={pathOf(ring.map(place))} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
        </g>
      ))}
      <path
        d={pathOf(bell.map(place))}
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.25"
      />
    </svg>
  );
}
