import type { ReactElement } from "react";
import { boxOf, circleRing, clipRing, edgeInside, pathOf, type Point } from "./geometry";
import { hatchPath } from "./hatch";
import { planHalf, toPage, type Drawing, type OilSurface, type Placed } from "./views";

/** The pan from above: where its floor is under oil, and where it is bare. */
export function PlanView({
  drawing,
  at,
  oil,
  airy,
}: {
  drawing: Drawing;
  at: Placed;
  oil: OilSurface;
  airy: boolean;
}): ReactElement {
  const place = (point: Point): Point => {
    const [u, v] = toPage.plan(drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };
  const path = (ring: readonly Point[], closed = true): string => pathOf(ring.map(place), closed);
  const { mouth } = drawing;
  const [mouthX, mouthY] = place([mouth.x_mm, mouth.y_mm]);
  const wide = mouth.half_length_mm * at.scale;
  const high = mouth.half_width_mm * at.scale;
  const rim = mouth.is_round
    ? circleRing([mouthX, mouthY], wide)
    : ([
        [mouthX - wide, mouthY - high],
        [mouthX + wide, mouthY - high],
        [mouthX + wide, mouthY + high],
        [mouthX - wide, mouthY + high],
      ] as const);
  const look = {
    fill: airy ? "var(--air)" : "var(--oil)",
    stroke: "var(--ink)",
    strokeWidth: 1.75,
  };
  return (
    <g>
      {drawing.zones.map((zone) => (
        <g key={zone.name}>
          <path d={path(zone.outline_mm)} fill="var(--panel)" />
          <path
            d={path(clipRing(zone.outline_mm, planHalf(oil, zone)))}
            fill="var(--oil-wash)"
            data-oil="plan"
          />
          {edgeInside(zone.outline_mm, planHalf(oil, zone)).map((stretch, each) => (
            <path key={each} d={path(stretch, false)} stroke="var(--oil-deep)" strokeWidth="2" />
          ))}
          <path
            d={path(zone.outline_mm)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={zone.is_open ? 1 : 1.25}
          />
        </g>
      ))}
      <path d={path(drawing.rail_mm)} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
      {drawing.zones.map((zone) => {
        const box = boxOf(zone.outline_mm.map(place));
        if (box.right - box.left < 6.2 * zone.name.length) return null;
        return (
          <text
            key={zone.name}
            x={box.left + 7}
            y={box.bottom - 8}
            fontSize="13"
            fill="var(--ink-2)"
            fontWeight="500"
          >
            {zone.name}
          </text>
        );
      })}
      {mouth.is_round ? (
        <circle cx={mouthX} cy={mouthY} r={wide} {...look} />
      ) : (
        <rect x={mouthX - wide} y={mouthY - high} width={2 * wide} height={2 * high} {...look} />
      )}
      {airy && <path d={hatchPath([rim], 6, -1)} stroke="var(--air-ink)" strokeWidth="0.9" />}
    </g>
  );
}
