import {
  lazy,
  Suspense,
  useDeferredValue,
  useMemo,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type ReactElement,
} from "react";
import type { Point } from "../drawing/geometry";
import { SectionView, type SectionPlace } from "../drawing/SectionView";
import { viewBox, type Drawing, type OilSurface } from "../drawing/views";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { highestOil, type MovingFrame } from "../drawing/movingOil";
import { sectionTitle } from "../drawing/sectionTitle";
import {
  dragged,
  FIRST_STANCE,
  onPage,
  projectionOf,
  STANCES,
  type Projection,
  type Stance,
} from "./camera";
import { cutSurface, heightLines, litresDrawn, type CutWay } from "./model";
import type { Vector } from "./solid";

const loadScene = (): Promise<typeof import("./PanScene")> => import("./PanScene");
const PanScene = lazy(loadScene);

/** Fetches what draws in three dimensions, before there is something to draw. */
export const fetchScene = (): void => void loadScene().catch(() => undefined);

/** Whether this browser can draw in three dimensions at all. */
export function canDraw3d(): boolean {
  try {
    return document.createElement("canvas").getContext("webgl2") !== null;
  } catch {
    return false;
  }
}

/** How the pan is looked at: from where, and which way it is cut. */
export interface PanView {
  stance: Stance;
  way: CutWay;
}

export const FIRST_VIEW: PanView = { stance: FIRST_STANCE, way: "along" };

const MARGIN = { x: 50, top: 40, bottom: 128 };
/** Where there is no section beside the scene. */
const NARROW = { x: 24, top: 34, bottom: 64 };
/** Wide enough for a section beside the scene [px]. */
const WIDE = 620;

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
      <text x={left} y={top + 20} fontSize="13" fontWeight="600" fill="var(--ink)">
        {name}
        <tspan dx="8" fontWeight="500" fill="var(--ink-2)">
          {words}
        </tspan>
      </text>
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
        <text
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
        </text>
      ))}
    </g>
  );
}

/** The words and leaders over the scene. */
function Notes({
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
      width={width}
      height={height}
      role="img"
      aria-label={words}
      className="pointer-events-none absolute inset-0"
    >
      {heights.map(({ z, at }) => (
        <text
          key={z}
          x={at[0] - 4}
          y={at[1] - 4}
          fontSize="13"
          fontWeight="600"
          textAnchor="end"
          fill="#1c211f"
        >
          {z === 0 ? "rail" : `${z > 0 ? "+" : "−"}${lengthAs(units, system, Math.abs(z)).figure}`}
        </text>
      ))}
      <g stroke="var(--ink)" fill="var(--ink)">
        <path d={`M${nose.join(" ")}L${tip.join(" ")}`} strokeWidth="1.5" />
        <path d="M0 0l-11 -4.5v9z" transform={`translate(${tip.join(" ")}) rotate(${angle})`} />
      </g>
      <text
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
      </text>
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
        <text x={24} y={24} fontSize="15" fontWeight="600" fill="var(--ink)">
          {highest > drawing.skirt_height_mm - 1
            ? `Oil at the top of the skirt, ${climbs.figure} ${climbs.unit} above the rail`
            : `Oil up to ${climbs.figure} ${climbs.unit} above the rail`}
        </text>
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

function Choice({
  legend,
  name,
  choices,
}: {
  legend: string;
  name: string;
  choices: readonly { label: string; chosen: boolean; run: () => void }[];
}): ReactElement {
  return (
    <fieldset className="flex items-center gap-2">
      <legend className="sr-only">{legend}</legend>
      <span aria-hidden="true" className="text-ink-2">
        {name}
      </span>
      {choices.map(({ label, chosen, run }) => (
        <button
          key={label}
          type="button"
          aria-pressed={chosen}
          aria-label={`${legend}: ${label}`}
          onClick={run}
          className={`border-b-2 px-0.5 ${chosen ? "border-ink font-semibold" : "border-transparent text-ink-2"}`}
        >
          {label}
        </button>
      ))}
    </fieldset>
  );
}

/** From where the pan is seen, and which way it is cut. */
export function ViewChoices({
  view,
  onView,
}: {
  view: PanView;
  onView: (change: (view: PanView) => PanView) => void;
}): ReactElement {
  return (
    <>
      <Choice
        legend="Seen from"
        name="from"
        choices={STANCES.map(([label, stance]) => ({
          label,
          chosen: view.stance.turn === stance.turn && view.stance.lift === stance.lift,
          run: () => onView((now) => ({ ...now, stance })),
        }))}
      />
      <Choice
        legend="Cut"
        name="cut"
        choices={WAYS.map(([way, label]) => ({
          label,
          chosen: view.way === way,
          run: () => onView((now) => ({ ...now, way })),
        }))}
      />
    </>
  );
}

const WAYS: [CutWay, string][] = [
  ["along", "along"],
  ["across", "across"],
  ["none", "whole"],
];

/** The pan cut away, from any side: drag to turn, wheel to come nearer, arrow keys when focused. */
export function CutAway({
  drawing,
  oil,
  airy,
  callout,
  words,
  width,
  height,
  moving,
  stamp,
  view,
  onView,
  beside = null,
}: {
  drawing: Drawing;
  oil: OilSurface;
  airy: boolean;
  callout: readonly [string, string];
  words: string;
  width: number;
  height: number;
  moving: MovingFrame | null;
  /** The moment shown, written on the canvas once it has been painted. */
  stamp: string;
  view: PanView;
  onView: (change: (view: PanView) => PanView) => void;
  /** Drawings that this one stands beside, at one scale. */
  beside?: readonly Drawing[] | null;
}): ReactElement {
  useSettings(); // drawn again in another theme's colours
  const { stance, way } = view;
  const setStance = (next: Stance): void => onView((now) => ({ ...now, stance: next }));
  // words and sections first, the scene as soon as there is time
  const shown = useMemo(() => ({ oil, airy, moving, stamp }), [oil, airy, moving, stamp]);
  const scene = useDeferredValue(shown);
  const grip = useRef<[number, number] | null>(null);
  const upright = drawing.standing.normal;
  const points = useMemo(
    (): Vector[] =>
      [drawing, ...(beside ?? [])].flatMap(({ faces }) => faces.flatMap((face) => face.corners_mm)),
    [drawing, beside],
  );
  const projection = useMemo(
    () => projectionOf(stance, upright, points, width, height, width > WIDE ? MARGIN : NARROW),
    [stance, upright, points, width, height],
  );

  function onKey(event: KeyboardEvent<HTMLDivElement>): void {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-16, 0],
      ArrowRight: [16, 0],
      ArrowUp: [0, -12],
      ArrowDown: [0, 12],
    };
    const step = steps[event.key];
    if (step) setStance(dragged(stance, ...step));
    else if (event.key === "+" || event.key === "=") zoomBy(1.15);
    else if (event.key === "-") zoomBy(1 / 1.15);
    else if (event.key === "Home") setStance(FIRST_STANCE);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function zoomBy(factor: number): void {
    onView((now) => {
      const zoom = Math.min(6, Math.max(0.5, now.stance.zoom * factor));
      return { ...now, stance: { ...now.stance, zoom } };
    });
  }

  function onMove(event: PointerEvent<HTMLDivElement>): void {
    const from = grip.current;
    if (!from) return;
    setStance(dragged(stance, event.clientX - from[0], event.clientY - from[1]));
    grip.current = [event.clientX, event.clientY];
  }

  return (
    <div className="relative" data-oil-litres={litresDrawn(drawing, oil).toFixed(3)}>
      <div
        role="group"
        aria-label="The pan in three dimensions: arrow keys turn it, plus and minus come nearer"
        tabIndex={0}
        className="relative cursor-grab touch-none select-none focus-visible:outline-offset-[-3px]"
        data-scene
        onKeyDown={onKey}
        onPointerDown={(event) => {
          grip.current = [event.clientX, event.clientY];
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={onMove}
        onPointerUp={() => {
          grip.current = null;
        }}
        onPointerCancel={() => {
          grip.current = null;
        }}
        onWheel={(event) => zoomBy(Math.exp(-event.deltaY * 0.001))}
        onDoubleClick={() => setStance(FIRST_STANCE)}
      >
        <Scene height={height} width={width}>
          <Suspense
            fallback={
              <p role="status" className="p-6 text-ink-2">
                Drawing the pan…
              </p>
            }
          >
            <PanScene drawing={drawing} way={way} projection={projection} {...scene} />
          </Suspense>
        </Scene>
        <Notes
          drawing={drawing}
          oil={oil}
          airy={airy}
          callout={callout}
          way={way}
          projection={projection}
          words={words}
          moving={moving}
          inset={width > WIDE}
        />
      </div>
    </div>
  );
}

function Scene({
  width,
  height,
  children,
}: {
  width: number;
  height: number;
  children: ReactElement;
}): ReactElement {
  const [boxWidth, boxHeight] = [Math.floor(width), Math.floor(height)];
  return (
    <div style={{ width: boxWidth, height: boxHeight }} className="overflow-hidden">
      {children}
    </div>
  );
}
