import {
  memo,
  useMemo,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactElement,
} from "react";
import type { Schemas } from "../api/client";
import { circleRing } from "../drawing/geometry";
import { hatchPath } from "../drawing/hatch";
import { useDrag } from "../parts/useDrag";
import { aroundBox, isInside, overDisc, overRing, placeLabel, type Place } from "./labels";
import { edgePlaces, heldTo, loadAt, loadWords, placeOf, type Dial, type Load } from "./rose";

type Samples = Schemas["SamplesOut"];

const RINGS = [0.5, 1, 1.5, 2, 2.5];
const STEP = 0.05;

const ringPath = (places: readonly Place[]): string =>
  `M${places.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;

interface Cloud {
  place: Place;
  dry: boolean;
}

/** What does not move with the handle: the covered region, its edge, the rings, the lap's cloud. */
const Ground = memo(function Ground({
  dial,
  edge,
  cloud,
}: {
  dial: Dial;
  edge: Place[];
  cloud: Cloud[];
}): ReactElement {
  const { size, radius, rim } = dial;
  const middle = size / 2;
  return (
    <>
      <defs>
        <clipPath id="rose-rim">
          <circle cx={middle} cy={middle} r={radius} />
        </clipPath>
      </defs>
      <g clipPath="url(#rose-rim)">
        <circle cx={middle} cy={middle} r={radius} fill="var(--air)" />
        <path
          d={hatchPath([circleRing([middle, middle], radius)], 6, -1)}
          stroke="var(--air-ink)"
          strokeWidth="0.9"
        />
        <path
          d={ringPath(edge)}
          fill="var(--oil-wash)"
          stroke="var(--oil-deep)"
          strokeWidth="2.5"
          data-rose-edge
        />
      </g>
      {RINGS.filter((g) => g < rim).map((g) => (
        <circle
          key={g}
          cx={middle}
          cy={middle}
          r={(g / rim) * radius}
          fill="none"
          stroke="var(--ink-2)"
          strokeOpacity="0.35"
        />
      ))}
      {cloud.map(({ place: [x, y], dry }, index) =>
        dry ? (
          <path
            key={index}
            d={`M${x.toFixed(1)} ${(y - 3.4).toFixed(1)}l3.4 6h-6.8z`}
            fill="var(--bad)"
            stroke="var(--paper)"
            strokeWidth="0.5"
            data-cloud="dry"
          />
        ) : (
          <circle key={index} cx={x} cy={y} r="1.5" fill="var(--ink)" />
        ),
      )}
      <circle
        cx={middle}
        cy={middle}
        r={radius}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.75"
      />
      <g fontSize="13" fontWeight="500" fill="var(--ink)" textAnchor="middle">
        <text x={middle} y={14}>
          braking: oil forward
        </text>
        <text x={middle} y={size - 5}>
          driving: oil back
        </text>
        <text transform={`translate(12 ${middle}) rotate(-90)`}>right turn: oil left</text>
        <text transform={`translate(${size - 5} ${middle}) rotate(-90)`}>left turn: oil right</text>
      </g>
    </>
  );
});

function Words({
  at,
  children,
  fill,
  data,
}: {
  at: Place | null;
  children: string;
  fill: string;
  data?: string;
}): ReactElement | null {
  if (!at) return null;
  return (
    <text
      x={at[0]}
      y={at[1] + 4}
      fontSize="13"
      fontWeight="600"
      textAnchor="middle"
      fill={fill}
      stroke="var(--panel)"
      strokeWidth="3"
      paintOrder="stroke"
      data-label={data}
    >
      {children}
    </text>
  );
}

/** The lap's own loads, thinned, each wet or dry. */
function useCloud(dial: Dial, samples: Samples | null): Cloud[] {
  return useMemo(() => {
    if (!samples) return [];
    const step = Math.max(1, Math.floor(samples.time_s.length / 300));
    return samples.side_g
      .map((sideG, i) => ({
        place: placeOf(dial, { sideG, foreG: samples.fore_g[i] ?? 0 }),
        dry: (samples.cover_mm[i] ?? 0) < 0,
      }))
      .filter((_, i) => i % step === 0);
  }, [samples, dial]);
}

interface Labels {
  dry: Place | null;
  covered: Place | null;
  figure: Place | null;
  one: Place | null;
}

/** Where the pad's words find room: the handle's figure first, clear of the lap's loads. */
function placeLabels(
  { size, radius, rim }: Dial,
  edge: Place[],
  cloud: readonly Cloud[],
  [x, y]: Place,
): Labels {
  const middle: Place = [size / 2, size / 2];
  const spots = overDisc(middle, radius);
  const inRim = (at: Place): boolean => Math.hypot(at[0] - size / 2, at[1] - size / 2) < radius - 4;
  const marks = cloud.map(({ place }) => place);
  const clear = [[x, y] as const];
  const figureBox = { width: 46, height: 20 };
  const near = [26, 34, 46].flatMap((far) =>
    Array.from({ length: 16 }, (_, k): Place => {
      const angle = (k * Math.PI) / 8;
      return [x + far * 1.5 * Math.cos(angle), y + far * Math.sin(angle)];
    }),
  );
  const figure = placeLabel(figureBox, near, inRim, marks, clear);
  const taken = figure ? [...clear, ...aroundBox(figure, figureBox)] : clear;
  const dryBox = { width: 54, height: 16 };
  const dry = placeLabel(dryBox, spots, (p) => inRim(p) && !isInside(edge, p), marks, taken);
  const one = placeLabel(
    { width: 20, height: 14 },
    overRing(middle, radius / rim),
    inRim,
    marks,
    dry ? [...taken, ...aroundBox(dry, dryBox)] : taken,
  );
  const covered = placeLabel(
    { width: 90, height: 16 },
    spots,
    (p) => inRim(p) && isInside(edge, p),
    marks,
    one ? [...taken, one] : taken,
  );
  return { dry, covered, figure, one };
}

/** The handle on its line from rest, with the load that it stands for. */
function Handle({
  dial: { size },
  at: [x, y],
  figure,
  total,
  isHeavy,
}: {
  dial: Dial;
  at: Place;
  figure: Place | null;
  total: number;
  isHeavy: boolean;
}): ReactElement {
  return (
    <>
      <path
        d={`M${size / 2} ${size / 2}L${x.toFixed(1)} ${y.toFixed(1)}`}
        stroke="var(--ink)"
        strokeWidth="2"
      />
      {figure && (
        <g>
          <rect x={figure[0] - 24} y={figure[1] - 11} width="48" height="22" fill="var(--ink)" />
          <text
            x={figure[0]}
            y={figure[1] + 5}
            fontSize="15"
            fontWeight="600"
            textAnchor="middle"
            fill="var(--paper)"
          >
            {total.toFixed(2)} g
          </text>
        </g>
      )}
      <circle
        cx={x}
        cy={y}
        r="10"
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth={isHeavy ? 4 : 3}
        data-handle
      />
      <circle cx={x} cy={y} r="2.5" fill="var(--ink)" />
    </>
  );
}

/**
 * The cover rose that is the load pad: covered inside the thick edge, bare outside. The handle lies
 * where the oil is thrown; drag it, use the arrow keys, or type the load below it.
 */
export function LoadPad({
  rose,
  samples,
  load,
  steady,
  held,
  rim,
  size,
  onLoad,
}: {
  rose: Schemas["RoseOut"];
  samples: Samples | null;
  load: Load;
  /** The load is the pad's own, not a moment's of the lap. */
  steady: boolean;
  held: readonly (number | null)[] | null;
  rim: number;
  size: number;
  onLoad: (load: Load) => void;
}): ReactElement {
  const [focused, setFocused] = useState(false);
  const dial = useMemo<Dial>(() => ({ size, radius: size / 2 - 20, rim }), [size, rim]);
  const edge = useMemo(
    () => edgePlaces(dial, rose.thrown_deg, rose.dry_from_g),
    [dial, rose.thrown_deg, rose.dry_from_g],
  );
  const cloud = useCloud(dial, samples);
  const handle = placeOf(dial, load);
  const heldRing = held ? edgePlaces(dial, rose.thrown_deg, held) : null;
  const [x, y] = handle;
  const labels = useMemo(() => placeLabels(dial, edge, cloud, [x, y]), [dial, edge, cloud, x, y]);

  function move(event: PointerEvent<SVGSVGElement>): void {
    const box = event.currentTarget.getBoundingClientRect();
    onLoad(loadAt(dial, [event.clientX - box.left, event.clientY - box.top]));
  }

  const drag = useDrag(move);

  function onKey(event: KeyboardEvent<SVGSVGElement>): void {
    const next = tipped(load, event.key, event.shiftKey);
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    onLoad(heldTo(rim, next));
  }

  const total = Math.hypot(load.sideG, load.foreG);
  return (
    <svg
      width={size}
      height={size}
      role="slider"
      tabIndex={0}
      aria-label="Load pad"
      aria-valuemin={0}
      aria-valuemax={rim}
      aria-valuenow={Math.round(total * 100) / 100}
      aria-valuetext={loadWords(load)}
      className="touch-none select-none"
      data-load-pad
      onKeyDown={onKey}
      onFocus={() => setFocused(true)}
      onBlur={() => setFocused(false)}
      {...drag}
    >
      <Ground dial={dial} edge={edge} cloud={cloud} />
      {heldRing && (
        <g clipPath="url(#rose-rim)">
          <path
            d={ringPath(heldRing)}
            fill="none"
            stroke="var(--oil-deep)"
            strokeWidth="1.25"
            data-held-edge
          />
        </g>
      )}
      <Words at={labels.dry} fill="var(--air-ink)" data="dry">
        runs dry
      </Words>
      <Words at={labels.covered} fill="var(--oil-deep)" data="covered">
        mouth covered
      </Words>
      <Words at={labels.one} fill="var(--ink-2)" data="ring">
        1 g
      </Words>
      <Handle
        dial={dial}
        at={handle}
        figure={labels.figure}
        total={total}
        isHeavy={focused || steady}
      />
    </svg>
  );
}

/** The load one key press further; null when the key is not the pad's. */
export function tipped({ sideG, foreG }: Load, key: string, far: boolean): Load | null {
  const step = far ? 4 * STEP : STEP;
  switch (key) {
    case "ArrowRight":
      return { sideG: sideG + step, foreG };
    case "ArrowLeft":
      return { sideG: sideG - step, foreG };
    case "ArrowUp":
      return { sideG, foreG: foreG - step };
    case "ArrowDown":
      return { sideG, foreG: foreG + step };
    case "Home":
      return { sideG: 0, foreG: 0 };
    default:
      return null;
  }
}
