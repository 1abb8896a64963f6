import { useMemo, useRef, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { Wall } from "../../api/drains";
import { pathOf, type Point } from "../../drawing/geometry";
import { useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { useDrag } from "../../parts/useDrag";
import { lengthIn } from "./sentence";
import { edgeAt, entryAt, placeAt, sidesOf } from "./wall";

const TOP = 6;
const FLOOR = 22; // [px] of words under the wall
const STEP = 8; // [mm] an arrow key moves the entry

interface Scaled {
  wall: Wall;
  width: number;
  high: number;
  x: (alongMm: number) => number;
  y: (heightMm: number) => number;
}

function scaled(wall: Wall, width: number, high: number): Scaled {
  const top = wall.heights_mm.at(-1) ?? 0;
  const low = wall.heights_mm[0] ?? -100;
  return {
    wall,
    width,
    high,
    x: (along) => (along / wall.around_mm) * (width - 2) + 1,
    y: (height) => TOP + ((top - height) / Math.max(1, top - low)) * (high - TOP),
  };
}

/** Under oil, marginal and sound, one over the other from below. */
function Zones({ wall, x, y, high }: Scaled): ReactElement {
  const low = wall.heights_mm[0] ?? 0;
  const above = (wall.heights_mm.at(-1) ?? 0) + 1;
  const band = (clearBy: number): string => {
    const edge = edgeAt(wall, clearBy);
    const points = edge.map((height, at): Point => [x(wall.along_mm[at] ?? 0), y(height ?? above)]);
    const [first, last] = [points[0], points.at(-1)];
    if (!first || !last) return "";
    return pathOf([[1, first[1]], ...points, [x(wall.around_mm), last[1]]], false);
  };
  const [clear, sound] = [band(0), band(wall.wanted_mm)];
  const closed = (edge: string): string => `${edge}L${x(wall.around_mm)} ${y(low)}L1 ${y(low)}Z`;
  return (
    <g>
      <rect
        x="1"
        y={TOP}
        width={x(wall.around_mm) - 1}
        height={high - TOP}
        fill="var(--good-wash)"
      />
      <path d={closed(sound)} fill="var(--panel)" />
      <path d={closed(clear)} fill="var(--oil-wash)" />
      <path d={sound} fill="none" stroke="var(--good)" strokeDasharray="5 3" />
      <path d={clear} fill="none" stroke="var(--oil-deep)" strokeWidth="2" data-under />
      {wall.in_the_way.flatMap((column, at) =>
        column.map((blocked, row) =>
          blocked ? (
            <rect
              key={`${at}-${row}`}
              x={x((wall.along_mm[at] ?? 0) - 4)}
              y={y((wall.heights_mm[row] ?? 0) + 4)}
              width={Math.max(1, x(8) - x(0))}
              height={Math.max(1, y(0) - y(8))}
              fill="var(--metal)"
              data-blocked
            />
          ) : null,
        ),
      )}
    </g>
  );
}

function Sides({ wall, x, y, high }: Scaled): ReactElement {
  return (
    <g>
      <path
        d={`M1 ${y(0)}H${x(wall.around_mm)}`}
        stroke="var(--ink)"
        strokeWidth="1.25"
        data-keep-free
      />
      {sidesOf(wall).map(({ side, fromMm, toMm }) => (
        <g key={fromMm}>
          {fromMm > 1 && (
            <path d={`M${x(fromMm)} ${TOP}V${high}`} stroke="var(--ink)" data-keep-free />
          )}
          {x(toMm) - x(fromMm) > 30 && (
            <text
              x={(x(fromMm) + x(toMm)) / 2}
              y={high + 16}
              fontSize="13"
              textAnchor="middle"
              fill="var(--ink-2)"
            >
              {side}
            </text>
          )}
        </g>
      ))}
      <rect
        x="1"
        y={TOP}
        width={x(wall.around_mm) - 1}
        height={high - TOP}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.25"
      />
    </g>
  );
}

function Marks({ wall, x, y, run }: Scaled & { run: string }): ReactElement {
  return (
    <g>
      {wall.marks.map((mark, index) => {
        const [u, v] = [x(mark.along_mm), y(mark.height_mm)];
        const r = Math.max(3, (x(mark.across_mm) - x(0)) / 2);
        const isMine = mark.kind === "entry" && mark.runs.includes(run);
        return (
          <circle
            key={index}
            cx={u}
            cy={v}
            r={mark.kind === "bolt" ? 2.5 : r}
            fill={mark.kind === "bolt" ? "var(--metal)" : "var(--panel)"}
            stroke={isMine ? "var(--ink)" : "var(--ink-2)"}
            strokeWidth={isMine ? 2.5 : 1}
            data-mark={mark.kind}
            data-keep-free={isMine || undefined}
          />
        );
      })}
      {wall.marks
        .filter(({ kind }) => kind !== "bolt")
        .map((mark, index) => (
          <Words
            key={index}
            rank={mark.runs.includes(run) ? "gap" : "name"}
            mayGo={!mark.runs.includes(run)}
            x={x(mark.along_mm) + 13}
            y={y(mark.height_mm) + 4}
            fontSize="13"
            fontWeight={mark.runs.includes(run) ? "600" : "500"}
            fill="var(--ink)"
            anchor={[x(mark.along_mm), y(mark.height_mm)]}
          >
            {mark.runs.includes(run) ? "entry" : mark.name}
          </Words>
        ))}
    </g>
  );
}

/**
 * The pan's wall unrolled, walked round outside: under oil, marginal and sound at the lap's worst.
 * A tap, or the arrow keys, tries an entry there.
 */
export function WallUnrolled({
  wall,
  run,
  tried,
  width,
  height,
  onTry,
}: {
  wall: Wall;
  /** The drain whose entry is tried. */
  run: string;
  /** An entry that is tried: ahead, left, depth. */
  tried: readonly [number, number, number] | null;
  width: number;
  height: number;
  onTry: (entry: [number, number, number]) => void;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const shown = useSettings();
  const to = useMemo(() => scaled(wall, width, height - FLOOR), [wall, width, height]);
  const { x, y, high } = to;
  const mine = wall.marks.find((mark) => mark.runs.includes(run) && mark.kind === "entry");
  const spot = tried
    ? placeAt(wall, nearestAlong(wall, tried), -tried[2])
    : mine
      ? placeAt(wall, mine.along_mm, mine.height_mm)
      : null;

  function move(event: PointerEvent<SVGSVGElement>): void {
    const box = event.currentTarget.getBoundingClientRect();
    const along = ((event.clientX - box.left - 1) / (width - 2)) * wall.around_mm;
    const [top, low] = [wall.heights_mm.at(-1) ?? 0, wall.heights_mm[0] ?? -100];
    const share = (event.clientY - box.top - TOP) / Math.max(1, high - TOP);
    const found = placeAt(wall, along, top - share * (top - low));
    if (found.clear !== null) onTry(entryAt(wall, found.index, wall.heights_mm[found.row] ?? 0));
  }

  const drag = useDrag(move);

  function onKey(event: KeyboardEvent<SVGSVGElement>): void {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ];
    if (!way || !spot) return;
    event.preventDefault();
    event.stopPropagation();
    const along = ((wall.along_mm[spot.index] ?? 0) + (way[0] ?? 0) * STEP) % wall.around_mm;
    const found = placeAt(wall, along, (wall.heights_mm[spot.row] ?? 0) + (way[1] ?? 0) * STEP);
    if (found.clear !== null) onTry(entryAt(wall, found.index, wall.heights_mm[found.row] ?? 0));
  }

  const said =
    spot?.clear == null
      ? "no entry"
      : `${lengthIn(shown, spot.clear)} ${spot.clear < 0 ? "under oil" : "clear"} at the lap's worst${spot.blocked ? ", a keep-out in the way" : ""}`;
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="slider"
      tabIndex={0}
      aria-label="Entry on the pan's wall"
      aria-valuemin={0}
      aria-valuemax={Math.round(wall.around_mm)}
      aria-valuenow={Math.round(spot ? (wall.along_mm[spot.index] ?? 0) : 0)}
      aria-valuetext={said}
      className="block touch-none font-figure select-none"
      data-wall
      onKeyDown={onKey}
      {...drag}
    >
      <Zones {...to} />
      <Sides {...to} />
      <Marks {...to} run={run} />
      <Words rank="gap" x={10} y={high - 8} fontSize="13" fontWeight="600" fill="var(--oil-deep)">
        under oil
      </Words>
      <Words rank="gap" x={10} y={TOP + 16} fontSize="13" fontWeight="600" fill="var(--good)">
        sound
      </Words>
      {tried && spot && (
        <g data-tried>
          <circle
            cx={x(wall.along_mm[spot.index] ?? 0)}
            cy={y(-tried[2])}
            r="8"
            fill="none"
            stroke="var(--opt)"
            strokeWidth="2.5"
            strokeDasharray="4 3"
          />
          <Words
            rank="gap"
            x={x(wall.along_mm[spot.index] ?? 0) + 12}
            y={y(-tried[2]) - 10}
            fontSize="13"
            fontWeight="600"
            fill="var(--opt)"
            stroke="var(--panel)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            here {said}
          </Words>
        </g>
      )}
    </svg>
  );
}

function nearestAlong(wall: Wall, [tx, ty]: readonly [number, number, number]): number {
  const far = wall.places_mm.map(([px, py]) => Math.hypot(px - tx, py - ty));
  const at = far.indexOf(Math.min(...far));
  return wall.along_mm[at] ?? 0;
}
