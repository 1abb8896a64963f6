import { memo, useMemo, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { Drain } from "../../api/drains";
import { circleRing, pathOf } from "../../drawing/geometry";
import { useDrag } from "../../parts/useDrag";
import { aroundBox, isInside, overDisc, placeLabel, type Place } from "../../plots/labels";
import { tipped } from "../../plots/LoadPad";
import {
  edgePlaces,
  heldTo,
  loadAt,
  loadWords,
  placeOf,
  type Dial,
  type Load,
} from "../../plots/rose";

/** Where the lap has been, thinned, and whether oil stood over the seals there. */
export interface Visited {
  load: Load;
  backs: boolean;
}

const thrown = (edge: readonly unknown[]): number[] =>
  edge.map((_, at) => (at * 360) / edge.length);

const Ground = memo(function Ground({
  dial,
  edge,
  visited,
}: {
  dial: Dial;
  edge: readonly Place[];
  visited: readonly Visited[];
}): ReactElement {
  const { size, radius, rim } = dial;
  const middle = size / 2;
  return (
    <>
      <defs>
        <clipPath id="drain-rim">
          <circle cx={middle} cy={middle} r={radius} />
        </clipPath>
      </defs>
      <g clipPath="url(#drain-rim)">
        <circle cx={middle} cy={middle} r={radius} fill="var(--bad-wash)" />
        <path
          d={pathOf(edge)}
          fill="var(--good-wash)"
          stroke="var(--good)"
          strokeWidth="2.5"
          data-rose-edge
        />
      </g>
      {[0.5, 1, 1.5]
        .filter((g) => g < rim)
        .map((g) => (
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
      <text
        x={middle + (radius / rim) * Math.SQRT1_2 + 4}
        y={middle - (radius / rim) * Math.SQRT1_2 - 2}
        fontSize="12"
        fill="var(--ink-2)"
      >
        1 g
      </text>
      {visited.map(({ load, backs }, index) => {
        const [x, y] = placeOf(dial, load);
        return backs ? (
          <path
            key={index}
            d={`M${x.toFixed(1)} ${(y - 3.4).toFixed(1)}l3.4 6h-6.8z`}
            fill="var(--bad)"
            stroke="var(--paper)"
            strokeWidth="0.5"
          />
        ) : (
          <circle key={index} cx={x} cy={y} r="1.5" fill="var(--ink)" />
        );
      })}
      <path
        d={pathOf(circleRing([middle, middle], radius))}
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

/** Words over the rose where there is room for them. */
function labels(
  { size, radius }: Dial,
  edge: readonly Place[],
  visited: readonly Place[],
  handle: Place,
): { drains: Place | null; backs: Place | null; figure: Place | null } {
  const middle: Place = [size / 2, size / 2];
  const spots = overDisc(middle, radius);
  const inRim = ([x, y]: Place): boolean => Math.hypot(x - size / 2, y - size / 2) < radius - 4;
  const near = [28, 38, 52].flatMap((far) =>
    Array.from({ length: 16 }, (_, k): Place => {
      const angle = (k * Math.PI) / 8;
      return [handle[0] + far * 1.4 * Math.cos(angle), handle[1] + far * Math.sin(angle)];
    }),
  );
  const figureBox = { width: 50, height: 22 };
  const figure = placeLabel(figureBox, near, inRim, visited, [handle]);
  const taken = figure ? [handle, ...aroundBox(figure, figureBox)] : [handle];
  const box = { width: 56, height: 16 };
  const inside = (p: Place): boolean => isInside(edge, p);
  const backs = placeLabel(box, spots, (p) => inRim(p) && !inside(p), visited, taken);
  const more = backs ? [...taken, ...aroundBox(backs, box)] : taken;
  return {
    figure,
    backs,
    drains: placeLabel(box, spots, (p) => inRim(p) && inside(p), visited, more),
  };
}

/** The drain rose, which is a load pad: green inside drains, outside it backs up. */
export function DrainRose({
  drain,
  visited,
  load,
  isPad,
  size,
  onLoad,
}: {
  drain: Drain;
  visited: readonly Visited[];
  load: Load;
  /** The load is the pad's own, not a moment's of the lap. */
  isPad: boolean;
  size: number;
  onLoad: (load: Load) => void;
}): ReactElement {
  const { edge_g: edgeG, limit_g: rim } = drain.rose;
  const dial = useMemo<Dial>(() => ({ size, radius: size / 2 - 20, rim }), [size, rim]);
  const edge = useMemo(() => edgePlaces(dial, thrown(edgeG), edgeG), [dial, edgeG]);
  const [x, y] = placeOf(dial, load);
  const words = useMemo(
    () =>
      labels(
        dial,
        edge,
        visited.map((each) => placeOf(dial, each.load)),
        [x, y],
      ),
    [dial, edge, visited, x, y],
  );

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
  const said = (at: Place | null, text: string, fill: string): ReactElement | null =>
    at && (
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
      >
        {text}
      </text>
    );
  return (
    <svg
      width={size}
      height={size}
      role="slider"
      tabIndex={0}
      aria-label="Load on the drain"
      aria-valuemin={0}
      aria-valuemax={rim}
      aria-valuenow={Math.round(total * 100) / 100}
      aria-valuetext={loadWords(load)}
      className="touch-none font-figure select-none"
      data-drain-rose
      onKeyDown={onKey}
      {...drag}
    >
      <Ground dial={dial} edge={edge} visited={visited} />
      {said(words.drains, "drains", "var(--good)")}
      {said(words.backs, "backs up", "var(--bad)")}
      <path
        d={`M${size / 2} ${size / 2}L${x.toFixed(1)} ${y.toFixed(1)}`}
        stroke="var(--ink)"
        strokeWidth="2"
      />
      {words.figure && (
        <g>
          <rect
            x={words.figure[0] - 25}
            y={words.figure[1] - 11}
            width="50"
            height="22"
            fill="var(--ink)"
          />
          <text
            x={words.figure[0]}
            y={words.figure[1] + 5}
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
        strokeWidth={isPad ? 4 : 3}
      />
      <circle cx={x} cy={y} r="2.5" fill="var(--ink)" />
    </svg>
  );
}
