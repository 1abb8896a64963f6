import { useRef, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { Point } from "../../drawing/geometry";
import { useSettings } from "../../parts/settings";
import { fromPage, onGrid, onPage, type Frame, type Spot, type View, type WayPoint } from "./frame";

const STEPS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Points of the picked line: dragged, or moved with the arrow keys. */
export function WayPoints({
  points,
  frame,
  view,
  onDrag,
  onDrop,
}: {
  points: readonly WayPoint[];
  frame: Frame;
  view: View;
  onDrag: (index: number, at: Spot) => void;
  onDrop: (index: number, at: Spot | null) => void;
}): ReactElement {
  const { system } = useSettings();
  const held = useRef<number | null>(null);
  const frameRef = useRef<SVGGElement>(null);
  const under = (event: PointerEvent, was: Spot): Spot => {
    const box = frameRef.current?.ownerSVGElement?.getBoundingClientRect();
    const at: Point = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
    return onGrid(fromPage(frame, view, at, was), system);
  };
  function nudge(event: KeyboardEvent, index: number, was: Spot): void {
    const way = STEPS[event.key];
    if (!way) return;
    event.preventDefault();
    const far = (event.shiftKey ? 1 : 5) * frame.scale;
    const [px, py] = onPage(frame, view, was);
    onDrop(
      index,
      onGrid(fromPage(frame, view, [px + way[0] * far, py + way[1] * far], was), system),
    );
  }
  return (
    <g ref={frameRef}>
      {points.map(({ at_mm: at }, index) => {
        const [x, y] = onPage(frame, view, at);
        const name = index === 0 ? "start" : index === points.length - 1 ? "end" : `bend ${index}`;
        return (
          <g
            key={index}
            role="button"
            tabIndex={0}
            aria-label={`Move the ${name}, ${view === "plan" ? "from above" : "from the left"}`}
            className="cursor-move touch-none"
            data-point={index}
            data-view={view}
            onKeyDown={(event) => nudge(event, index, at)}
            onPointerDown={(event) => {
              held.current = index;
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
              if (held.current === index) onDrag(index, under(event, at));
            }}
            onPointerUp={(event) => {
              if (held.current === index) onDrop(index, under(event, at));
              held.current = null;
            }}
            onPointerCancel={() => {
              held.current = null;
              onDrop(index, null);
            }}
          >
            <circle cx={x} cy={y} r="13" fill="transparent" />
            <path
              d={`M${x - 6} ${y - 6}h12v12h-12z`}
              fill="var(--paper)"
              stroke="var(--ink)"
              strokeWidth="2"
            />
          </g>
        );
      })}
    </g>
  );
}
