import { useMemo, useRef, type ReactElement } from "react";
import type { Point } from "../drawing/geometry";
import { highestOil, type MovingFrame } from "../drawing/movingOil";
import { sectionTitle } from "../drawing/sectionTitle";
import { SectionView, type SectionPlace } from "../drawing/SectionView";
import { viewBox, type Drawing, type OilSurface } from "../drawing/views";
import { useClearWords, Words } from "../drawing/Words";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { onPage, type Projection } from "./camera";
import { cutSurface, heightLines, type CutWay } from "./model";
import type { Vector } from "./solid";

function Inset({
  drawing,
  oil,
  airy,
  moving,
  left,
  top,
}: {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  moving: MovingFrame | null;
  left: number;
  top: number;
}): ReactElement {
  const { system, units } = useSettings();
  const [name, words] = sectionTitle(drawing, "front", system, units);
  const at = useMemo((): SectionPlace => {
    const box = viewBox(drawing, "front");
    const scale = Math.min(150 / (box.right - box.left), 108 / (box.bottom - box.top));
    return { view: "front", box, scale, x: left - box.left * scale, y: top - box.bottom * scale };
  }, [drawing, left, top]);
  return (
    <g>
      <SectionView drawing={drawing} at={at} oil={oil} airy={airy} moving={moving} />
      <Words rank="title" x={left} y={top + 20} fontSize="13" fontWeight="600" fill="var(--ink)">
        {name}
        <tspan dx="8" fontWeight="500" fill="var(--ink-2)">
          {words}
        </tspan>
      </Words>
    </g>
  );
}

function Callout({
  from,
  to,
  lines,
  bad = false,
  end = false,
}: {
  from: Point;
  to: Point;
  lines: readonly string[];
  bad?: boolean;
  end?: boolean;
}): ReactElement {
  const [x, y] = to;
  return (
    <g>
      <circle cx={from[0]} cy={from[1]} r="2.6" fill="var(--ink)" />
      <path d={`M${from.join(" ")}L${to.join(" ")}`} stroke="var(--ink)" strokeWidth="1" />
      {lines.map((line, index) => (
        <Words
          rank="title"
          key={index}
          x={x + (end ? -5 : 5)}
          y={y + 5 + index * 17}
          fontSize={index === 0 ? 15 : 14}
          fontWeight={index === 0 ? 600 : 500}
          textAnchor={end ? "end" : "start"}
          fill={index > 0 ? "var(--ink-2)" : bad ? "var(--bad)" : "var(--ink)"}
          stroke="var(--paper)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {line}
        </Words>
      ))}
    </g>
  );
}

/** The words and leaders over the scene. */
export function SceneNotes({
  drawing,
  oil,
  airy,
  callout,
  way,
  projection,
  words,
  moving,
  inset,
}: {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  callout: readonly [string, string];
  way: CutWay;
  projection: Projection;
  words: string;
  /** The oil drawn where it is moving oil: then notes on settled oil are left away. */
  moving: MovingFrame | null;
  inset: boolean;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const { system, units } = useSettings();
  const moves = moving !== null;
  const { width, height } = projection;
  const { mouth } = drawing;
  const page = (point: Vector): Point => onPage(projection, point);
  const { toViewer } = projection;
  const surface = useMemo(
    () => cutSurface(drawing, oil, way, toViewer),
    [drawing, oil, way, toViewer],
  );
  const top = surface
    .flat()
    .reduce<Vector | null>(
      (best, point) => (best === null || point[2] > best[2] ? point : best),
      null,
    );
  const rail = drawing.rail_mm;
  const front = Math.max(...rail.map(([x]) => x));
  const across = rail.reduce((sum, [, y]) => sum + y / rail.length, 0);
  const nose = page([front + 26, across, 0]);
  const tip = page([front + 74, across, 0]);
  const angle = (Math.atan2(tip[1] - nose[1], tip[0] - nose[0]) * 180) / Math.PI;
  const crowded = top !== null && page(top)[0] + 24 > width - 230;
  const full = top !== null && top[2] > drawing.skirt_height_mm - 0.5;
  const climb = !moves && top && top[2] > 4 ? lengthAs(units, system, top[2]) : null;
  const highest = moving ? highestOil(moving) : 0;
  const climbs = highest > 4 ? lengthAs(units, system, highest) : null;
  const heights = moves ? [] : labelledHeights(drawing, surface, projection);
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="img"
      aria-label={words}
      className="pointer-events-none absolute inset-0"
    >
      {heights.map(({ z, at }) => (
        <Words
          rank="name"
          mayGo
          key={z}
          x={at[0] - 4}
          y={at[1] - 4}
          fontSize="13"
          fontWeight="600"
          textAnchor="end"
          fill="#1c211f"
        >
          {z === 0 ? "rail" : `${z > 0 ? "+" : "−"}${lengthAs(units, system, Math.abs(z)).figure}`}
        </Words>
      ))}
      <g stroke="var(--ink)" fill="var(--ink)">
        <path d={`M${nose.join(" ")}L${tip.join(" ")}`} strokeWidth="1.5" />
        <path d="M0 0l-11 -4.5v9z" transform={`translate(${tip.join(" ")}) rotate(${angle})`} />
      </g>
      <Words
        rank="gap"
        x={(nose[0] + tip[0]) / 2}
        y={Math.min(nose[1], tip[1]) - 10}
        fontSize="13"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--ink)"
      >
        {drawing.nose_points === "front"
          ? "nose"
          : `crank's nose, ${drawing.nose_points} in the car`}
      </Words>
      {top && climb && (
        <Callout
          from={page(top)}
          to={[crowded ? page(top)[0] - 26 : page(top)[0] + 24, Math.max(page(top)[1] - 30, 34)]}
          end={crowded}
          lines={[
            full
              ? `Oil at the top of the skirt, ${climb.figure} ${climb.unit} up`
              : `Oil stands ${climb.figure} ${climb.unit} up the skirt`,
          ]}
        />
      )}
      <Callout
        from={page([mouth.x_mm, mouth.y_mm, mouth.z_mm])}
        to={[
          // what stands below the scene on the right has its place
          Math.min(page([mouth.x_mm, mouth.y_mm, mouth.z_mm])[0] + 30, width - (inset ? 500 : 330)),
          height - 44,
        ]}
        lines={callout}
        bad={airy}
      />
      {climbs && (
        <Words rank="title" x={24} y={24} fontSize="15" fontWeight="600" fill="var(--ink)">
          {highest > drawing.skirt_height_mm - 1
            ? `Oil at the top of the skirt, ${climbs.figure} ${climbs.unit} above the rail`
            : `Oil up to ${climbs.figure} ${climbs.unit} above the rail`}
        </Words>
      )}
      {inset && (
        <Inset
          drawing={drawing}
          oil={oil}
          airy={airy}
          moving={moving}
          left={24}
          top={height - 34}
        />
      )}
    </svg>
  );
}

/** Each height line's figure, at the line's end farther right on the page. */
function labelledHeights(
  drawing: Drawing,
  surface: readonly Vector[][],
  projection: Projection,
): { z: number; at: Point }[] {
  return heightLines(drawing, surface).map(({ z, lines }) => {
    const ends = lines.flat().map((point) => onPage(projection, point));
    return { z, at: ends.reduce((best, end) => (end[0] > best[0] ? end : best)) };
  });
}
