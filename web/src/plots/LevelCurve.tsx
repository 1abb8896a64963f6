import { useRef, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import { useClearWords, Words } from "../drawing/Words";
import { useSettings } from "../parts/settings";
import { lengthAs, scaleOf, volumeAs } from "../parts/units";
import { useDrag } from "../parts/useDrag";
import { niceTicks } from "./traces";

type Fill = Schemas["FillOut"];
type Dip = Schemas["DipPointOut"];

const LEFT = 40;
const RIGHT = 14;
const TOP = 22;
const BOTTOM = 34;

/** Where litres and millimetres lie on the plot. */
interface Axes {
  x: (litres: number) => number;
  y: (mm: number) => number;
  most: number;
  highest: number;
  width: number;
  height: number;
}

function axesOf(fill: Fill, dips: readonly Dip[], width: number, height: number): Axes {
  const [most, top] = fill.curve_l_mm.at(-1) ?? [1, 1];
  const highest = Math.max(top, ...dips.map((dip) => dip.dipped_mm));
  return {
    x: (litres) => LEFT + (litres / most) * (width - LEFT - RIGHT),
    y: (mm) => height - BOTTOM - (mm / highest) * (height - TOP - BOTTOM),
    most,
    highest,
    width,
    height,
  };
}

/** Ticks of both axes in the units in use, with what they count. */
function Scale({ axes }: { axes: Axes }): ReactElement {
  const { system, units } = useSettings();
  const { x, y, most, highest, width, height } = axes;
  const [perLitre, perMm] = [scaleOf(units, "x_l", system), scaleOf(units, "x_mm", system)];
  const small = { fontSize: "12", fill: "var(--ink-2)" } as const;
  return (
    <>
      {niceTicks(highest * perMm, 5).map((tick) => (
        <g key={tick}>
          <path d={`M${LEFT} ${y(tick / perMm)}H${width - RIGHT}`} stroke="var(--hair)" />
          <text x={LEFT - 6} y={y(tick / perMm) + 4} textAnchor="end" {...small}>
            {tick}
          </text>
        </g>
      ))}
      <path d={`M${LEFT} ${y(0)}H${width - RIGHT}M${LEFT} ${TOP}V${y(0)}`} stroke="var(--ink)" />
      {niceTicks(most * perLitre, 6).map((tick) => (
        <text
          key={tick}
          x={x(tick / perLitre)}
          y={height - BOTTOM + 16}
          textAnchor="middle"
          {...small}
        >
          {tick}
        </text>
      ))}
      <text x={width - RIGHT} y={height - 3} textAnchor="end" {...small}>
        {volumeAs(units, system, 1).unit} in the pan
      </text>
      <text x={4} y={12} {...small}>
        {lengthAs(units, system, 1).unit} above the lowest point
      </text>
    </>
  );
}

/** The dipstick's marks and the points that were dipped. */
function Measured({
  axes: { x, y, highest, width },
  marks,
  dips,
}: {
  axes: Axes;
  marks: readonly { name: string; level_mm: number }[];
  dips: readonly Dip[];
}): ReactElement {
  return (
    <>
      {marks
        .filter((mark) => mark.level_mm <= highest)
        .map((mark) => (
          <g key={mark.name} data-mark={mark.name}>
            <path
              d={`M${LEFT} ${y(mark.level_mm)}H${width - RIGHT}`}
              stroke="var(--ink)"
              strokeDasharray="2 3"
            />
            <Words
              rank="part"
              x={width - RIGHT}
              y={y(mark.level_mm) - 3}
              fontSize="12"
              textAnchor="end"
              fill="var(--ink)"
              stroke="var(--panel)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {mark.name}
            </Words>
          </g>
        ))}
      {dips.map((dip, index) => (
        <path
          key={index}
          d={`M${x(dip.poured_l) - 4} ${y(dip.dipped_mm) - 4}l8 8m0 -8l-8 8`}
          stroke="var(--ink)"
          strokeWidth="1.75"
          data-dip-point
        />
      ))}
    </>
  );
}

/** Where the fill stands, flagged. */
function Handle({
  axes: { x, y, width },
  litres,
  heightMm,
  words,
}: {
  axes: Axes;
  litres: number;
  heightMm: number;
  words: string;
}): ReactElement {
  const flag = Math.max(LEFT + 4, Math.min(x(litres) - 122, width - 130));
  const top = Math.max(16, y(heightMm) - 34);
  return (
    <>
      <path d={`M${x(litres)} ${y(heightMm)}V${y(0)}`} stroke="var(--ink)" strokeWidth="2" />
      <rect x={flag} y={top} width="112" height="22" fill="var(--ink)" />
      <text
        x={flag + 56}
        y={top + 16}
        fontSize="15"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--paper)"
      >
        {words}
      </text>
      <circle
        cx={x(litres)}
        cy={y(heightMm)}
        r="8"
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="3"
        data-fill-handle
      />
    </>
  );
}

/** The litres that a key press asks for; null when it is no key of the curve's. */
function keyed(key: string, litres: number, most: number): number | null {
  if (key === "Home") return 0;
  if (key === "End") return most;
  const step = { ArrowRight: 0.1, ArrowUp: 0.1, ArrowLeft: -0.1, ArrowDown: -0.1 }[key];
  return step ? litres + step : null;
}

/** Litres against level: the line computed, crosses where it was poured and dipped; drag the fill. */
export function LevelCurve({
  fill,
  dips,
  marks,
  litres,
  heightMm,
  width,
  height,
  onLitres,
}: {
  fill: Fill;
  dips: readonly Dip[];
  /** The dipstick's marks; those above the curve are left out. */
  marks: readonly { name: string; level_mm: number }[];
  litres: number;
  heightMm: number;
  width: number;
  height: number;
  onLitres: (litres: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const axes = axesOf(fill, dips, width, height);
  const { x, y, most } = axes;
  const held = (value: number): number =>
    Math.round(Math.min(most, Math.max(0, value)) * 100) / 100;
  const drag = useDrag((event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onLitres(held(((event.clientX - box.left - LEFT) / (width - LEFT - RIGHT)) * most));
  });
  function onKey(event: KeyboardEvent<SVGSVGElement>): void {
    const to = keyed(event.key, litres, most);
    if (to === null) return;
    event.preventDefault();
    event.stopPropagation();
    onLitres(held(to));
  }
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const [shownL, shownMm] = [volumeAs(units, system, litres), lengthAs(units, system, heightMm)];
  const line = (points: Fill["curve_l_mm"]): string =>
    points.map(([volume, mm]) => `${x(volume).toFixed(1)} ${y(mm).toFixed(1)}`).join("L");
  const under = line(fill.curve_l_mm.filter(([volume]) => volume <= litres));
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="slider"
      tabIndex={0}
      aria-label="Fill of the pan"
      aria-valuemin={0}
      aria-valuemax={Math.round(most * 10) / 10}
      aria-valuenow={litres}
      aria-valuetext={`${shownL.figure} ${shownL.unit}, ${shownMm.figure} ${shownMm.unit} above the lowest point`}
      className="block touch-none select-none"
      onKeyDown={onKey}
      {...drag}
    >
      <Scale axes={axes} />
      <path
        d={`M${x(0)} ${y(0)}L${under}L${x(litres)} ${y(heightMm)}V${y(0)}Z`}
        fill="var(--oil-wash)"
      />
      <path d={`M${line(fill.curve_l_mm)}`} fill="none" stroke="var(--oil-deep)" strokeWidth="2" />
      <Measured axes={axes} marks={marks} dips={dips} />
      <Handle
        axes={axes}
        litres={litres}
        heightMm={heightMm}
        words={`${shownL.figure} ${shownL.unit}, ${shownMm.figure} ${shownMm.unit}`}
      />
    </svg>
  );
}
