import { memo, useId, type ReactElement } from "react";
import { clipRing, edgeInside, pathOf, type Point, type Ring } from "./geometry";
import { hatchPath } from "./hatch";
import { MovingArea } from "./MovingArea";
import { gateKey, oilInSection, ringsPath, swingOf, type MovingFrame } from "./movingOil";
import { sectionHalf, toPage, type Drawing, type OilSurface, type Placed } from "./views";

/** The pickup in section: a bell on a tube, drawn as glass and hatched when it carries air. */
function bell(drawing: Drawing, half: number): Point[] {
  const { mouth, skirt_height_mm } = drawing;
  const top = Math.max(skirt_height_mm * 0.5, 30);
  const throat = half * 0.42;
  const shoulder = mouth.z_mm + half * 1.1;
  return [
    [-half, mouth.z_mm],
    [half, mouth.z_mm],
    [throat, shoulder],
    [throat, top],
    [-throat, top],
    [-throat, shoulder],
  ];
}

/** The cut sheet: it stands still while the oil moves. */
const Metal = memo(function Metal({
  drawing,
  at,
}: {
  drawing: Drawing;
  at: SectionPlace;
}): ReactElement {
  const place = placer(drawing, at);
  return (
    <>
      {drawing[at.view].metal_mm.map((rings, index) => {
        const placed = rings.map((ring) => ring.map(place));
        return (
          <g key={index} fill="none" stroke="var(--metal-ink)">
            <path
              d={placed.map((ring) => pathOf(ring)).join("")}
              fill="var(--metal)"
              fillRule="evenodd"
              stroke="var(--ink)"
              strokeWidth="1.25"
            />
            <path d={hatchPath(placed, 5, 1)} />
          </g>
        );
      })}
    </>
  );
});

/** A section's place on the page. */
export type SectionPlace = Placed & { view: "side" | "front" };

const placer =
  (drawing: Drawing, at: SectionPlace) =>
  (point: Point): Point => {
    const [u, v] = toPage[at.view](drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };

const SWUNG = (22 * Math.PI) / 180;

/** Plates where the section goes through them, and gates with hinge, leaf and the way they swing. */
const Plates = memo(function Plates({
  drawing,
  at,
  moving,
}: {
  drawing: Drawing;
  at: SectionPlace;
  moving: MovingFrame | null;
}): ReactElement {
  const place = placer(drawing, at);
  const { plates_mm: plates, gates } = drawing[at.view];
  return (
    <g fill="none" stroke="var(--ink)">
      {plates.map((line, index) => (
        <path
          key={index}
          d={pathOf(line.map(place), false)}
          strokeWidth="3.5"
          data-plate
          data-keep-free
        />
      ))}
      {gates.map(({ plate, name, hinge_mm: hinge, edge_mm: edge, opens }) => {
        const swing = swingOf(moving, gateKey(plate, name), SWUNG);
        const long = Math.hypot(edge[0] - hinge[0], edge[1] - hinge[1]);
        const at1 = (angle: number): Point =>
          place([hinge[0] + opens * long * Math.sin(angle), hinge[1] - long * Math.cos(angle)]);
        const [leaf, tip] = [at1(swing), at1(2.1 * SWUNG)];
        const [u, v] = place(hinge);
        return (
          <g key={`${plate} ${name}`} data-gate={name} data-swing={swing.toFixed(3)}>
            <path d={pathOf([[u, v], leaf], false)} strokeWidth="2.5" />
            <path
              d={pathOf([at1(0), at1(SWUNG / 2), at1(SWUNG), tip], false)}
              strokeDasharray="2 2.5"
            />
            <circle cx={u} cy={v} r="3" fill="var(--paper)" strokeWidth="1.5" />
          </g>
        );
      })}
    </g>
  );
});

/** The crank's swept circle where it comes down into the section. */
const Crank = memo(function Crank({
  drawing,
  at,
}: {
  drawing: Drawing;
  at: SectionPlace;
}): ReactElement | null {
  const id = useId();
  const { crank } = drawing;
  const section = drawing[at.view];
  if (!crank || at.view !== "front") return null;
  if (section.at_mm < crank.from_x_mm || section.at_mm > crank.to_x_mm) return null;
  const place = placer(drawing, at);
  const [u, v] = place([0, crank.height_mm]);
  return (
    <g data-crank>
      <clipPath id={id}>
        <path
          d={[...section.inside_mm, ...section.skirt_mm]
            .map((ring) => pathOf(ring.map(place)))
            .join("")}
        />
      </clipPath>
      <circle
        cx={u}
        cy={v}
        r={crank.swept_radius_mm * at.scale}
        fill="none"
        stroke="var(--ink-2)"
        strokeDasharray="9 3 2 3"
        clipPath={`url(#${id})`}
      />
    </g>
  );
});

/** One section with the oil as it lies. */
export function SectionView({
  drawing,
  at,
  oil,
  airy,
  moving,
}: {
  drawing: Drawing;
  at: SectionPlace;
  oil: OilSurface;
  airy: boolean;
  /** Drawn in place of settled oil where there is some. */
  moving: MovingFrame | null;
}): ReactElement {
  const section = drawing[at.view];
  const half = sectionHalf(oil, at.view, section.at_mm);
  const place = placer(drawing, at);
  const path = (ring: readonly Point[], closed = true): string => pathOf(ring.map(place), closed);
  const rings: Ring[] = [...section.inside_mm, ...section.skirt_mm];
  const { mouth } = drawing;
  const centre = at.view === "side" ? mouth.x_mm : mouth.y_mm;
  const reach = at.view === "side" ? mouth.half_length_mm : mouth.half_width_mm;
  // a section beside the mouth shows it as hidden
  const [beside, room] =
    at.view === "side"
      ? [section.at_mm - mouth.y_mm, mouth.half_width_mm]
      : [section.at_mm - mouth.x_mm, mouth.half_length_mm];
  const isCut = Math.abs(beside) <= room;
  const pipe = bell(drawing, reach).map(([u, v]): Point => place([u + centre, v]));
  return (
    <g>
      {moving ? (
        <MovingArea
          inside={ringsPath(rings, place)}
          area={ringsPath(oilInSection(moving, at.view, section.at_mm), place)}
          fill="var(--oil)"
          name={at.view}
        />
      ) : (
        rings.map((ring, index) => (
          <path key={index} d={path(clipRing(ring, half))} fill="var(--oil)" data-oil={at.view} />
        ))
      )}
      <Metal drawing={drawing} at={at} />
      <Plates drawing={drawing} at={at} moving={moving} />
      <Crank drawing={drawing} at={at} />
      {section.skirt_mm.map((ring, index) => (
        <path
          key={index}
          d={path(ring)}
          fill="none"
          stroke="var(--line)"
          strokeDasharray="10 3 2 3 2 3"
        />
      ))}
      {isCut ? (
        <path
          d={pathOf(pipe)}
          fill={airy ? "var(--air)" : "var(--oil)"}
          fillOpacity={airy ? 1 : 0.55}
          stroke="var(--ink)"
          strokeWidth="1.75"
        />
      ) : (
        <path d={pathOf(pipe)} fill="none" stroke="var(--ink)" strokeDasharray="5 3" />
      )}
      {airy && isCut && (
        <path d={hatchPath([pipe], 6, -1)} stroke="var(--air-ink)" strokeWidth="0.9" />
      )}
      {(moving ? [] : rings).flatMap((ring, index) =>
        edgeInside(ring, half).map((stretch, each) => (
          <path
            key={`${index}-${each}`}
            d={path(stretch, false)}
            stroke="var(--oil-deep)"
            strokeWidth="2"
          />
        )),
      )}
    </g>
  );
}
