import { memo, type ReactElement } from "react";
import { boxOf, circleRing, clipRing, edgeInside, pathOf, type Point } from "./geometry";
import { hatchPath } from "./hatch";
import { MovingArea } from "./MovingArea";
import { gateKey, oilOnFloor, ringsPath, swingOf, type MovingFrame } from "./movingOil";
import { Words } from "./Words";
import { planHalf, toPage, type Drawing, type OilSurface, type Placed } from "./views";

/** The two ends in plan of an upright piece. */
function footOf(ring: readonly (readonly [number, number, number])[]): [Point, Point] | null {
  let far: [Point, Point] | null = null;
  let longest = 0;
  for (const [x, y] of ring)
    for (const [u, v] of ring) {
      const length = Math.hypot(x - u, y - v);
      if (length > longest) {
        longest = length;
        far = [
          [x, y],
          [u, v],
        ];
      }
    }
  return far;
}

/** A gate from above: its leaf as far as it has swung, and an arrow the way it opens. */
function Gate({
  gate,
  swing,
  scale,
  place,
}: {
  gate: Drawing["plates"][number]["gates"][number];
  /** How far it has swung [rad]; not a number where that is not known. */
  swing: number;
  scale: number;
  place: (point: Point) => Point;
}): ReactElement | null {
  const [one, other, edge] = gate.corners_mm;
  if (!one || !other) return null;
  const away = (point: readonly [number, number, number], mm: number): Point =>
    place([point[0] + gate.opens[0] * mm, point[1] + gate.opens[1] * mm]);
  const middle = [(one[0] + other[0]) / 2, (one[1] + other[1]) / 2, 0] as const;
  const [tail, tip] = [away(middle, -16), away(middle, 34)];
  // seen from above a leaf reaches as far as it has swung
  const long = edge ? Math.hypot(...edge.map((part, k) => part - (other[k] ?? 0))) : 0;
  const reach = Number.isNaN(swing) ? 13 : Math.max(2, long * Math.sin(swing));
  const angle = (Math.atan2(tip[1] - tail[1], tip[0] - tail[0]) * 180) / Math.PI;
  const [x, y] = away(middle, -16 - 13 / scale);
  return (
    <g data-gate={gate.name}>
      <path
        data-keep-free
        d={pathOf([away(one, 0), away(other, 0), away(other, reach), away(one, reach)])}
        fill="var(--metal)"
        strokeWidth="1.25"
      />
      <path data-keep-free d={pathOf([tail, tip], false)} strokeWidth="1.5" />
      <path
        d="M2 0l-9 -4v8z"
        fill="var(--ink)"
        stroke="none"
        transform={`translate(${tip[0].toFixed(1)} ${tip[1].toFixed(1)}) rotate(${angle.toFixed(1)})`}
      />
      <Words
        rank="part"
        anchor={place([middle[0], middle[1]])}
        x={x}
        y={y + 4}
        fontSize="13"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--ink)"
        stroke="none"
      >
        {gate.name}
      </Words>
    </g>
  );
}

/** Plates from above: upright ones as heavy lines, level ones hidden-line, gates with an arrow. */
const Plates = memo(function Plates({
  drawing,
  at,
  moving,
}: {
  drawing: Drawing;
  at: Placed;
  moving: MovingFrame | null;
}): ReactElement {
  const place = (point: Point): Point => {
    const [u, v] = toPage.plan(drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };
  const flat = ([x, y]: readonly [number, number, number]): Point => place([x, y]);
  return (
    <g fill="none" stroke="var(--ink)">
      {drawing.plates.map((plate) => (
        <g key={plate.name} data-plate={plate.name}>
          {plate.pieces_mm.map((rings, index) => {
            const foot = plate.kind === "vertical" ? footOf(rings[0] ?? []) : null;
            return foot ? (
              <path
                key={index}
                d={pathOf(foot.map(place), false)}
                strokeWidth="3.5"
                data-keep-free
              />
            ) : (
              rings.map((ring, each) => (
                <path
                  key={`${index}-${each}`}
                  d={pathOf(ring.map(flat))}
                  strokeWidth="1"
                  strokeDasharray="5 3"
                />
              ))
            );
          })}
          {plate.gates.map((gate) => (
            <Gate
              key={gate.name}
              gate={gate}
              swing={swingOf(moving, gateKey(plate.name, gate.name), NaN)}
              scale={at.scale}
              place={place}
            />
          ))}
        </g>
      ))}
    </g>
  );
});

/** The pan from above: where its floor is under oil, and where it is bare. */
export function PlanView({
  drawing,
  at,
  oil,
  airy,
  moving,
}: {
  drawing: Drawing;
  at: Placed;
  oil: OilSurface;
  airy: boolean;
  /** Drawn in place of settled oil where there is some. */
  moving: MovingFrame | null;
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
  const outlined = [...drawing.zones.filter((zone) => !zone.is_piece), ...drawing.scanned];
  return (
    <g>
      {drawing.zones.map((zone) => (
        <g key={zone.name}>
          <path d={path(zone.outline_mm)} fill="var(--panel)" />
          {!moving && (
            <path
              d={path(clipRing(zone.outline_mm, planHalf(oil, zone)))}
              fill="var(--oil-wash)"
              data-oil="plan"
            />
          )}
          {(moving ? [] : edgeInside(zone.outline_mm, planHalf(oil, zone))).map((stretch, each) => (
            <path key={each} d={path(stretch, false)} stroke="var(--oil-deep)" strokeWidth="2" />
          ))}
        </g>
      ))}
      {moving && (
        <MovingArea
          inside={ringsPath(
            drawing.zones.map((zone) => zone.outline_mm),
            place,
          )}
          area={ringsPath(oilOnFloor(moving), place)}
          fill="var(--oil-wash)"
          name="plan"
        />
      )}
      {outlined.map((zone) => (
        <path
          key={zone.name}
          d={path(zone.outline_mm)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={zone.is_open ? 1 : 1.25}
        />
      ))}
      <Plates drawing={drawing} at={at} moving={moving} />
      <path d={path(drawing.rail_mm)} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
      {drawing.rail_mm.map((corner, index) => {
        const next = drawing.rail_mm[(index + 1) % drawing.rail_mm.length];
        return next && <path key={index} d={path([corner, next], false)} data-keep-free />;
      })}
      {outlined.map((zone) => {
        const box = boxOf(zone.outline_mm.map(place));
        if (box.right - box.left < 6.2 * zone.name.length) return null;
        return (
          <Words
            rank="name"
            mayGo
            key={zone.name}
            x={box.left + 7}
            y={box.bottom - 8}
            fontSize="13"
            fill="var(--ink-2)"
            fontWeight="500"
          >
            {zone.name}
          </Words>
        );
      })}
      {mouth.is_round ? (
        <circle cx={mouthX} cy={mouthY} r={wide} {...look} data-keep-free />
      ) : (
        <rect x={mouthX - wide} y={mouthY - high} width={2 * wide} height={2 * high} {...look} />
      )}
      {airy && <path d={hatchPath([rim], 6, -1)} stroke="var(--air-ink)" strokeWidth="0.9" />}
    </g>
  );
}
