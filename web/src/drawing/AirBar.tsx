import { useMemo, type ReactElement, type SVGAttributes } from "react";
import type { Ring } from "./geometry";
import { hatchPath } from "./hatch";

/** Air where oil should be, as a bar: pale blue with a diagonal hatch. */
export function AirBar({
  x,
  y,
  width,
  height,
  ...rest
}: {
  x: number;
  y: number;
  width: number;
  height: number;
} & SVGAttributes<SVGRectElement>): ReactElement {
  const hatch = useMemo(() => {
    const ring: Ring = [
      [x, y],
      [x + width, y],
      [x + width, y + height],
      [x, y + height],
    ];
    return hatchPath([ring], 6, -1);
  }, [x, y, width, height]);
  return (
    <g stroke="var(--air-ink)">
      <rect x={x} y={y} width={width} height={height} fill="var(--air)" {...rest} />
      <path d={hatch} strokeWidth="0.9" />
    </g>
  );
}
