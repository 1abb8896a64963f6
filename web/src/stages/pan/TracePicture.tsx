import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from "react";
import type { Point } from "../../drawing/geometry";
import { Button } from "../../parts/Button";
import { inside, KINDS, WORDS, type Kind, type Picked } from "./tracing";

export interface Picture {
  href: string;
  wide: number;
  high: number;
}

const STEPS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const ZOOMS = [1, 1.5, 2, 3, 4, 6] as const;
/** Css pixels: a picture that is all seen fills the box, or the screen but for its edges. */
const MOST_WIDE = 840;
const BESIDE = 46;
const RINGS: readonly Kind[] = ["corners", "outline", "opening"];

/** A place that was picked: dragged, moved with the arrow keys, taken away with Delete. */
function Place({
  at,
  name,
  size,
  isOfNow,
  within,
  onMove,
  onGone,
}: {
  at: Point;
  name: string;
  /** Half its side, in the picture's pixels. */
  size: number;
  isOfNow: boolean;
  within: (event: PointerEvent) => Point;
  onMove: (at: Point) => void;
  onGone: () => void;
}): ReactElement {
  const held = useRef(false);
  const [x, y] = at;
  function onKeyDown(event: KeyboardEvent): void {
    const way = STEPS[event.key];
    if (way) {
      event.preventDefault();
      const far = event.shiftKey ? 10 : 1;
      onMove([x + way[0] * far, y + way[1] * far]);
    } else if (event.key === "Delete" || event.key === "Backspace") onGone();
  }
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={name}
      className="cursor-move touch-none"
      data-place={name}
      onKeyDown={onKeyDown}
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => held.current && onMove(within(event))}
      onPointerUp={() => (held.current = false)}
      onPointerCancel={() => (held.current = false)}
    >
      <circle cx={x} cy={y} r={2 * size} fill="transparent" />
      <circle cx={x} cy={y} r={size} fill="none" stroke="var(--paper)" strokeWidth={size * 0.9} />
      <circle
        cx={x}
        cy={y}
        r={size}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={size * (isOfNow ? 0.5 : 0.25)}
      />
      <path
        d={`M${x - size / 3} ${y}h${size / 1.5}M${x} ${y - size / 3}v${size / 1.5}`}
        stroke="var(--ink)"
        strokeWidth={size * 0.2}
      />
    </g>
  );
}

/** A picture with what was picked on it; a tap picks the next place. */
export function TracePicture({
  picture,
  picked,
  kind,
  onPick,
  onMove,
  onGone,
}: {
  picture: Picture;
  picked: Picked;
  kind: Kind;
  onPick: (at: Point) => void;
  onMove: (kind: Kind, index: number, at: Point) => void;
  onGone: (kind: Kind, index: number) => void;
}): ReactElement {
  const [zoom, setZoom] = useState(0);
  const drawing = useRef<SVGSVGElement>(null);
  const factor = ZOOMS[zoom] ?? 1;
  const { wide, high } = picture;
  const shown = Math.min(MOST_WIDE, window.innerWidth - BESIDE) * factor; // css pixels it is wide
  const size = (7 * wide) / shown;
  const placeOf = (event: { clientX: number; clientY: number }): Point => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box || box.width === 0) return [0, 0];
    const x = ((event.clientX - box.left) / box.width) * wide;
    return inside([x, ((event.clientY - box.top) / box.height) * high], wide, high);
  };
  const ring = (points: readonly Point[]): string =>
    points.length < 2 ? "" : `M${points.map((each) => each.join(" ")).join("L")}Z`;
  return (
    <>
      <p className="flex items-center gap-2 px-4 py-1 text-[14px]">
        <Button aria-label="Smaller" disabled={zoom === 0} onClick={() => setZoom(zoom - 1)}>
          −
        </Button>
        <Button
          aria-label="Larger"
          disabled={zoom === ZOOMS.length - 1}
          onClick={() => setZoom(zoom + 1)}
        >
          +
        </Button>
        <span className="text-ink-2">
          {factor === 1 ? "All of it" : `${factor} times as large`}; places are dragged, or moved
          with the arrow keys
        </span>
      </p>
      <div
        className="max-h-[52vh] overflow-auto border-y border-ink"
        tabIndex={0}
        aria-label="The picture"
      >
        <svg
          ref={drawing}
          viewBox={`0 0 ${wide} ${high}`}
          width={shown}
          height={(shown * high) / wide}
          className="block max-w-none cursor-crosshair"
          onClick={(event) => onPick(placeOf(event))}
        >
          <image href={picture.href} width={wide} height={high} />
          {RINGS.map((each) => (
            <g key={each} fill="none" pointerEvents="none" data-ring={each}>
              <path d={ring(picked[each])} stroke="var(--paper)" strokeWidth={size * 0.7} />
              <path
                d={ring(picked[each])}
                stroke="var(--ink)"
                strokeWidth={size * 0.3}
                strokeDasharray={each === "corners" ? `${size} ${size}` : undefined}
              />
            </g>
          ))}
          {KINDS.flatMap((each) =>
            picked[each].map((at, index) => (
              <Place
                key={`${each} ${index}`}
                at={at}
                name={`${WORDS[each]}, ${index + 1}`}
                size={size}
                isOfNow={each === kind}
                within={placeOf}
                onMove={(to) => onMove(each, index, inside(to, wide, high))}
                onGone={() => onGone(each, index)}
              />
            )),
          )}
        </svg>
      </div>
    </>
  );
}
