import { useMemo, useRef, type ReactElement } from "react";
import type { Drain } from "../../api/drains";
import { Dimension } from "../../drawing/Dimension";
import {
  clipRing,
  edgeInside,
  isWithin,
  pathOf,
  type HalfPlane,
  type Point,
} from "../../drawing/geometry";
import { hatchPath } from "../../drawing/hatch";
import { sectionHalf, type Drawing } from "../../drawing/views";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { cellsOf, depthOf, NOSES, placeOn, seenFrom, type Now, type Placing } from "./elevation";
import { EntryWords, Joins } from "./EntryWords";
import { HeadBracket } from "./HeadBracket";
import { Pipe } from "./Pipe";

const SCALE_BAR = [100, 50, 200] as const;

/** The pan cut at the entry, with the oil as it lies. */
function PanCut({
  drawing,
  drain,
  half,
  at,
}: {
  drawing: Drawing;
  drain: Drain;
  half: HalfPlane;
  at: (point: Point) => Point;
}): ReactElement {
  const { section } = drain;
  const rings = [...section.inside_mm, ...section.skirt_mm];
  const path = (ring: readonly Point[], closed = true): string => pathOf(ring.map(at), closed);
  return (
    <g>
      {rings.map((ring, index) => (
        <path key={index} d={path(clipRing(ring, half))} fill="var(--oil)" data-oil="pan" />
      ))}
      {section.metal_mm.map((outer, index) => {
        const placed = outer.map((ring) => ring.map(at));
        return (
          <g key={index} fill="none" stroke="var(--metal-ink)" data-keep-free>
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
      {section.skirt_mm.map((ring, index) => (
        <path
          key={index}
          d={path(ring)}
          fill="none"
          stroke="var(--line)"
          strokeDasharray="10 3 2 3 2 3"
        />
      ))}
      {rings.flatMap((ring, index) =>
        edgeInside(ring, half).map((stretch, each) => (
          <path
            key={`${index}-${each}`}
            d={path(stretch, false)}
            stroke="var(--oil-deep)"
            strokeWidth="2"
          />
        )),
      )}
      {drain.view === "front" && drawing.crank && (
        <Crank drawing={drawing} at={at} height={drawing.crank.height_mm} />
      )}
    </g>
  );
}

function Crank({
  drawing,
  at,
  height,
}: {
  drawing: Drawing;
  at: (point: Point) => Point;
  height: number;
}): ReactElement {
  const [u, v] = at([0, height]);
  const [, below] = at([0, height - (drawing.crank?.swept_radius_mm ?? 0)]);
  return (
    <circle
      cx={u}
      cy={v}
      r={Math.abs(below - v)}
      fill="none"
      stroke="var(--line)"
      strokeDasharray="9 3 2 3"
    />
  );
}

/** What is drained: its housing over the outlet, its shaft at the seals, the oil that stands in it. */
function Housing({ drain, now, to }: { drain: Drain; now: Now; to: Placing }): ReactElement {
  const { place, scale } = to;
  const [x, y] = place([0, 0]);
  const wide = Math.max(drain.outlet_mm, 30) * scale;
  const high = 40 * scale;
  const isTurbo = drain.kind === "turbo";
  const body: Point[] = [
    [x - wide, y - high * 1.35],
    [x + wide, y - high * 1.35],
    [x + wide, y - high * 0.55],
    [x + (drain.outlet_mm * scale) / 2 + 5, y],
    [x - (drain.outlet_mm * scale) / 2 - 5, y],
    [x - wide, y - high * 0.55],
  ];
  const held = Math.min(Math.max(0, ((now.heldMl ?? 0) / drain.room_cm2) * 10 * scale), high * 1.2);
  return (
    <g data-housing>
      <path
        d={pathOf(body)}
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.75"
        data-keep-free
      />
      <path d={hatchPath([body], 5, 1)} stroke="var(--metal-ink)" strokeWidth="0.8" />
      <rect
        x={x - wide * 0.62}
        y={y - high * 1.15}
        width={wide * 1.24}
        height={high * 1.05}
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.25"
      />
      {held > 1 && (
        <rect
          x={x - wide * 0.62}
          y={y - high * 0.1 - held}
          width={wide * 1.24}
          height={held}
          fill="var(--oil)"
          stroke="var(--oil-deep)"
          data-oil="housing"
        />
      )}
      {isTurbo && (
        <circle
          cx={x}
          cy={y - high * 0.62}
          r={Math.max(5, 9 * scale)}
          fill="var(--metal)"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      )}
      <rect
        x={x - (drain.outlet_mm * scale) / 2 - 12}
        y={y - 4}
        width={drain.outlet_mm * scale + 24}
        height="8"
        fill="var(--metal)"
        stroke="var(--ink)"
        strokeWidth="1.25"
      />
    </g>
  );
}

function ScaleBar({ scale, x, y }: { scale: number; x: number; y: number }): ReactElement {
  const { system, units } = useSettings();
  const mm = SCALE_BAR.find((each) => each * scale > 50 && each * scale < 150) ?? 100;
  const { figure, unit } = lengthAs(units, system, mm);
  const part = (mm * scale) / 4;
  return (
    <g data-scale={scale.toFixed(3)}>
      {[0, 1, 2, 3].map((index) => (
        <rect
          key={index}
          x={x - (4 - index) * part}
          y={y}
          width={part}
          height="5"
          data-keep-free
          fill={index % 2 === 0 ? "var(--ink)" : "var(--panel)"}
          stroke="var(--ink)"
          strokeWidth="0.9"
        />
      ))}
      <Words rank="title" x={x} y={y + 18} fontSize="13" textAnchor="end" fill="var(--ink)">
        {Number(figure)} {unit}
      </Words>
    </g>
  );
}

/** One drain to scale: the pan cut at the entry, its line as glass, the head it has and needs. */
export function Elevation({
  drawing,
  drain,
  now,
  width,
  height,
  litres,
  words,
}: {
  drawing: Drawing;
  drain: Drain;
  now: Now;
  width: number;
  height: number;
  /** Oil in the pan, in words. */
  litres: string;
  words: string;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const { system, units } = useSettings();
  const narrow = width < 480;
  const margins = { left: 44, right: narrow ? 120 : 210, top: 20, bottom: 44 };
  const to = useMemo(
    () => placeOn(drawing, drain, width, height, margins),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the margins follow the width
    [drawing, drain, width, height],
  );
  const entry = drain.points_mm.at(-1) ?? [0, 0, 0];
  const cut = depthOf(drain.view, entry);
  const half = sectionHalf({ normal: now.up, level_mm: now.levelMm }, drain.view, cut);
  const at = ([u, v]: Point): Point =>
    to.place(seenFrom(drawing, drain.view, drain.view === "side" ? [u, cut, v] : [cut, u, v]));
  const outlet = seenFrom(drawing, drain.view, drain.points_mm[0] ?? [0, 0, 0]);
  const seal = to.place(seenFrom(drawing, drain.view, drain.seal_mm));
  const cells = cellsOf(drawing, drain, now);
  const isCut = drain.section.inside_mm.length > 0; // beside the pan there is nothing to cut
  const floor = Math.min(...drain.section.inside_mm.flat().map(([, v]) => v));
  const left = Math.max(...drain.section.inside_mm.flat().map(([u]) => u));
  const slope = Math.round((Math.acos(Math.min(1, Math.abs(now.up[2]))) * 180) / Math.PI);
  const nose = NOSES[drawing.nose_points][drain.view];
  const middle = at([0, floor]);
  const named: Point = [middle[0], middle[1] - 16];
  const isOnOil = [...drain.section.inside_mm, ...drain.section.skirt_mm].some((ring) =>
    isWithin(clipRing(ring, half).map(at), ...named, 0),
  );
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="img"
      aria-label={words}
      className="block font-figure"
    >
      <PanCut drawing={drawing} drain={drain} half={half} at={at} />
      <Pipe drain={drain} cells={cells} place={to.place} scale={to.scale} />
      <Housing drain={drain} now={now} to={{ scale: to.scale, place: () => to.place(outlet) }} />
      <HeadBracket
        now={now}
        seal={seal}
        scale={to.scale}
        x={Math.min(width - (narrow ? 84 : 150), Math.max(to.place(outlet)[0], seal[0]) + 78)}
        height={height}
        isNarrow={narrow}
      />
      {isCut && (
        <Dimension
          a={at([left, 0])}
          b={at([left, floor])}
          offset={-22}
          text={lengthAs(units, system, -floor).figure}
        />
      )}
      {isCut && (
        <Words
          rank="part"
          x={named[0]}
          y={named[1]}
          fontSize="16"
          fontWeight="600"
          textAnchor="middle"
          {...(isOnOil ? { fill: "var(--on-oil)" } : { fill: "var(--ink)", ...HALO })}
        >
          {slope}° {litres}
        </Words>
      )}
      {drain.joins_mm && (
        <Joins
          drain={drain}
          at={to.place(seenFrom(drawing, drain.view, drain.joins_mm))}
          width={width}
        />
      )}
      <EntryWords
        drain={drain}
        now={now}
        at={to.place(seenFrom(drawing, drain.view, entry))}
        width={width}
        isNarrow={narrow}
      />
      {nose && (
        <g>
          <path d="M6 14l16-6v12z" fill="var(--ink)" />
          <Words rank="title" x={28} y={19} fontSize="13" fontWeight="600" fill="var(--ink)">
            {nose}
          </Words>
        </g>
      )}
      <ScaleBar scale={to.scale} x={width - 16} y={height - 30} />
      <Words rank="title" x={8} y={height - 10} fontSize="14" fontWeight="600" fill="var(--ink)">
        {drain.view === "side" ? "Side elevation" : "Elevation along the engine"}
        {!narrow && (
          <tspan dx="10" fontWeight="500" fill="var(--ink-2)">
            {drain.junction ? "to where its stage pulls" : "cut at the entry"}
          </tspan>
        )}
      </Words>
    </svg>
  );
}
