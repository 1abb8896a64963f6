import { useMemo, useRef, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { BottleMap } from "../../api/pressure";
import { pathOf, type Point } from "../../drawing/geometry";
import { useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { PRECHARGED_AT_C, pressureAs, temperatureWords, volumeAs } from "../../parts/units";
import { useDrag } from "../../parts/useDrag";
import { niceTicks } from "../../plots/traces";
import {
  bottleAt,
  clearOf,
  contoursOf,
  levelsOf,
  withinMap,
  xOf,
  yOf,
  type Axes,
} from "./bottleMap";

/** A bottle: its size and its charge when cold. */
export interface Bottle {
  litres: number;
  bar: number;
}

const STEPS: Record<string, readonly [number, number]> = {
  ArrowRight: [0.1, 0],
  ArrowLeft: [-0.1, 0],
  ArrowUp: [0, 0.1],
  ArrowDown: [0, -0.1],
};

/** Contours of the lowest gallery pressure, and where nothing dips. */
function Contours({
  map,
  axes,
  tried,
}: {
  map: BottleMap;
  axes: Axes;
  /** Where the one that is tried is marked. */
  tried: Point;
}): ReactElement {
  const { system, units } = useSettings();
  const holds = useMemo(
    () =>
      contoursOf(
        map,
        map.under_s.map((row) => row.map((under) => -under)),
        [-0.01],
        axes,
      )[0],
    [map, axes],
  );
  const lines = useMemo(() => contoursOf(map, map.lowest_bar, levelsOf(map), axes), [map, axes]);
  const ring = holds?.rings[0] ?? [];
  const [sumX, sumY] = ring.reduce(([a, b], [x, y]) => [a + x, b + y], [0, 0]);
  const named = clearOf([sumX / ring.length, sumY / ring.length], tried);
  return (
    <>
      {holds?.rings.map((each, index) => (
        <path key={index} d={pathOf(each)} fill="var(--good-wash)" data-holds />
      ))}
      {lines.flatMap(({ value, rings }) =>
        rings.flatMap((each, index) =>
          withinMap(each, map, axes).map((piece, at) => {
            const middle = piece[Math.floor(piece.length / 2)] ?? [0, 0];
            return (
              <g key={`${value} ${index} ${at}`}>
                <path
                  d={pathOf(piece, false)}
                  fill="none"
                  stroke="var(--oil-deep)"
                  strokeWidth="1.1"
                />
                {piece.length > 9 && (
                  <Words
                    rank="gap"
                    mayGo
                    x={middle[0]}
                    y={middle[1]}
                    fontSize="12"
                    fontWeight="600"
                    textAnchor="middle"
                    fill="var(--oil-deep)"
                    stroke="var(--panel)"
                    strokeWidth="3"
                    paintOrder="stroke"
                  >
                    {pressureAs(units, system, value).figure}
                  </Words>
                )}
              </g>
            );
          }),
        ),
      )}
      {holds?.rings.map((each, index) =>
        withinMap(each, map, axes).map((piece, at) => (
          <path
            key={`${index} ${at}`}
            d={pathOf(piece, false)}
            fill="none"
            stroke="var(--good)"
            strokeWidth="2"
          />
        )),
      )}
      {ring.length > 0 && (
        <Words
          rank="part"
          mayGo
          x={named[0]}
          y={named[1]}
          fontSize="13"
          fontWeight="600"
          textAnchor="middle"
          fill="var(--good)"
          stroke="var(--good-wash)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          no dip
        </Words>
      )}
    </>
  );
}

/** The axes with their ticks in the units shown. */
function Frame({ axes }: { axes: Axes }): ReactElement {
  const { system, units } = useSettings();
  const { left, right, top, bottom, mostBar, mostL } = axes;
  const bar = pressureAs(units, system, 1).unit;
  const litre = volumeAs(units, system, 1).unit;
  const cold = temperatureWords(units, system, PRECHARGED_AT_C);
  return (
    <g fontSize="12" fill="var(--ink-2)" className="font-figure">
      <path d={`M${left} ${top}V${bottom}H${right}`} fill="none" stroke="var(--ink)" />
      {niceTicks(mostBar, 4).map((value) => (
        <text key={value} x={xOf(axes, value)} y={bottom + 15} textAnchor="middle">
          {pressureAs(units, system, value).figure}
        </text>
      ))}
      <text x={right} y={bottom + 30} textAnchor="end">
        pre-charge at {cold}, {bar}
      </text>
      {niceTicks(mostL, 4).map((value) => (
        <text key={value} x={left - 5} y={yOf(axes, value) + 4} textAnchor="end">
          {volumeAs(units, system, value).figure}
        </text>
      ))}
      <text x={left + 4} y={top - 9}>
        bottle, {litre}
      </text>
    </g>
  );
}

/** The lowest gallery pressure of the lap over pre-charge and size; the point is dragged. */
export function BottlePlot({
  map,
  bottle,
  stands,
  said,
  mostBar,
  mostL,
  width,
  onBottle,
}: {
  map: BottleMap | undefined;
  /** The one that is tried. */
  bottle: Bottle;
  /** The one that the build has; null: none. */
  stands: Bottle | null;
  /** What is had with the one that is tried. */
  said: string;
  mostBar: number;
  mostL: number;
  width: number;
  onBottle: (bottle: Bottle) => void;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const height = 226;
  const axes = useMemo(
    (): Axes => ({
      left: 34,
      right: width - 10,
      top: 22,
      bottom: height - 36,
      mostBar,
      mostL,
    }),
    [width, mostBar, mostL],
  );
  const drag = useDrag((event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onBottle(bottleAt(axes, event.clientX - box.left, event.clientY - box.top));
  });
  function onKey(event: KeyboardEvent): void {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const x = xOf(axes, bottle.bar + step[0]);
    onBottle(bottleAt(axes, x, yOf(axes, bottle.litres + step[1])));
  }
  const [x, y] = [xOf(axes, bottle.bar), yOf(axes, bottle.litres)];
  const isLeft = x > width - 90;
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="slider"
      tabIndex={0}
      aria-label="Bottle tried: pre-charge across, size up"
      aria-valuemin={0}
      aria-valuemax={mostBar}
      aria-valuenow={bottle.bar}
      aria-valuetext={`${bottle.litres} L charged to ${bottle.bar} bar: ${said}`}
      className="block touch-none select-none"
      onKeyDown={onKey}
      {...drag}
    >
      {map && <Contours map={map} axes={axes} tried={[x, y]} />}
      <Frame axes={axes} />
      {stands && (stands.bar !== bottle.bar || stands.litres !== bottle.litres) && (
        <g fill="none" stroke="var(--ink)">
          <circle cx={xOf(axes, stands.bar)} cy={yOf(axes, stands.litres)} r="6" />
          <path
            d={`M${xOf(axes, stands.bar)} ${yOf(axes, stands.litres)}L${x} ${y}`}
            strokeDasharray="5 4"
          />
        </g>
      )}
      <circle cx={x} cy={y} r="8" fill="var(--panel)" stroke="var(--ink)" strokeWidth="2" />
      <circle cx={x} cy={y} r="3" fill="var(--ink)" />
      <Words
        rank="title"
        x={isLeft ? x - 12 : x + 12}
        y={y - 8}
        fontSize="14"
        fontWeight="700"
        textAnchor={isLeft ? "end" : "start"}
        fill="var(--ink)"
        stroke="var(--panel)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {said}
      </Words>
    </svg>
  );
}
