import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { fromPage, snapped, type Grip } from "./drag";
import { pathOf, type Point } from "./geometry";
import { toPage, type Drawing, type Placed } from "./views";

/** Where a grip was taken hold of and has been moved to, in the view's coordinates [mm]. */
interface Held {
  key: string;
  from: Point;
  by: Point;
  /** Whether the pointer has moved since: a mere press sends nothing. */
  moved: boolean;
}

const held = (grip: Grip, by: Point): Point => [
  grip.axis === 1 ? 0 : by[0],
  grip.axis === 0 ? 0 : by[1],
];

/** The figures that a grip sets when it is moved by so much, each coordinate on the grid. */
export function figuresOf(
  grip: Grip,
  by: Point,
  system: "metric" | "us",
  fine: boolean,
): { fields: readonly string[]; mm: number }[] {
  const start = grip.ends[0] ?? [0, 0];
  return grip.sets
    .map(({ axis, sign, fields }) => ({
      fields,
      mm: sign * snapped(start[axis] + by[axis], system, fine),
    }))
    .filter(({ mm }, index) => {
      const set = grip.sets[index];
      return set !== undefined && Math.abs(mm - set.sign * start[set.axis]) > 1e-6;
    });
}

/** What the pointer looks like over a grip: the way it can be moved. */
function cursorOf(grip: Grip, view: Placed["view"]): string {
  if (grip.axis === null) return "cursor-move";
  if (grip.axis === 1 && view === "plan") return "cursor-ns-resize";
  return (grip.axis === 0) === (view === "plan") ? "cursor-ew-resize" : "cursor-ns-resize";
}

/** A grip as it is seen: an edge as a heavy line, a place as a square, and where it would go. */
function Mark({
  ends,
  words,
}: {
  ends: readonly Point[];
  words: string | null;
}): ReactElement | null {
  const [first, second] = ends;
  if (!first) return null;
  const last = second ?? first;
  return (
    <>
      {second ? (
        <>
          <path d={pathOf(ends, false)} stroke="transparent" strokeWidth="12" />
          <path d={pathOf(ends, false)} stroke="var(--ink)" strokeWidth="4" />
        </>
      ) : (
        <>
          <circle cx={first[0]} cy={first[1]} r="11" fill="transparent" />
          <path
            d={`M${first[0] - 8} ${first[1] - 8}h16v16h-16z`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="2.5"
          />
        </>
      )}
      {words !== null && (
        <text
          x={(first[0] + last[0]) / 2}
          y={(first[1] + last[1]) / 2 - 10}
          fontSize="15"
          fontWeight="700"
          textAnchor="middle"
          fill="var(--ink)"
          stroke="var(--paper)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
    </>
  );
}

/** Grips over a view: dragged with a finger or a mouse, nudged with the arrow keys, on the grid. */
export function Grips({
  drawing,
  at,
  grips,
  onMove,
}: {
  drawing: Drawing;
  at: Placed;
  grips: readonly Grip[];
  onMove: (figures: { fields: readonly string[]; mm: number }[], words: string) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [drag, setDrag] = useState<Held | null>(null);
  const frame = useRef<SVGGElement>(null);
  const page = (point: Point): Point => {
    const [u, v] = toPage[at.view](drawing, point);
    return [at.x + u * at.scale, at.y + v * at.scale];
  };
  const under = (event: PointerEvent): Point => {
    const box = frame.current?.ownerSVGElement?.getBoundingClientRect();
    return fromPage(drawing, at, [
      event.clientX - (box?.left ?? 0),
      event.clientY - (box?.top ?? 0),
    ]);
  };
  const shift = (grip: Grip, by: Point): Point => {
    const start = grip.ends[0] ?? [0, 0];
    const free = held(grip, by);
    return [
      snapped(start[0] + free[0], system, false) - start[0],
      snapped(start[1] + free[1], system, false) - start[1],
    ].map((part, axis) => (free[axis] === 0 ? 0 : part)) as unknown as Point;
  };
  function release(grip: Grip): void {
    if (drag?.key === grip.key && drag.moved) {
      const figures = figuresOf(grip, held(grip, drag.by), system, false);
      if (figures.length > 0) onMove(figures, grip.words);
    }
    setDrag(null);
  }
  function nudge(grip: Grip, event: KeyboardEvent): void {
    const step = system === "metric" ? 1 : 25.4 / 16;
    const onPage = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    }[event.key] as Point | undefined;
    if (!onPage) return;
    event.preventDefault();
    event.stopPropagation();
    const [a, b] = [fromPage(drawing, { ...at, x: 0, y: 0, scale: 1 }, onPage), [0, 0]];
    const figures = figuresOf(grip, held(grip, [a[0] - (b[0] ?? 0), a[1]]), system, true);
    if (figures.length > 0) onMove(figures, grip.words);
  }
  const label = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  return (
    <g ref={frame}>
      {grips
        .filter((grip) => grip.view === at.view)
        .map((grip) => {
          const by = drag?.key === grip.key ? shift(grip, drag.by) : ([0, 0] as Point);
          const ends = grip.ends.map((end) => page([end[0] + by[0], end[1] + by[1]]));
          const active = drag?.key === grip.key;
          return (
            <g
              key={grip.key}
              role="button"
              tabIndex={0}
              aria-label={`Move the ${grip.words}`}
              data-grip={grip.key}
              className={`${cursorOf(grip, at.view)} touch-none opacity-0 outline-none hover:opacity-100 focus-visible:opacity-100 ${active ? "opacity-100" : ""}`}
              onKeyDown={(event) => nudge(grip, event)}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                setDrag({ key: grip.key, from: under(event), by: [0, 0], moved: false });
              }}
              onPointerMove={(event) => {
                if (drag?.key !== grip.key) return;
                const [x, y] = under(event);
                setDrag({ ...drag, by: [x - drag.from[0], y - drag.from[1]], moved: true });
              }}
              onPointerUp={() => release(grip)}
              onPointerCancel={() => setDrag(null)}
            >
              <Mark
                ends={ends}
                words={
                  active && drag.moved
                    ? figuresOf(grip, held(grip, drag.by), system, false)
                        .map(({ mm }) => label(mm))
                        .join(", ")
                    : null
                }
              />
            </g>
          );
        })}
    </g>
  );
}
