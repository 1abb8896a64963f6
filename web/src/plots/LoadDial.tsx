import {
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactElement,
  type ReactNode,
} from "react";
import { useDrag } from "../parts/useDrag";
import type { Place } from "./labels";
import { heldTo, loadAt, loadWords, placeOf, type Dial, type Load } from "./rose";

const STEP = 0.05;

/** The load one key press further; null when the key is not the dial's. */
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

/** Rings of g, the rim, and which way the oil is thrown; drawn over the regions. */
export function DialFrame({
  dial: { size, radius, rim },
  rings,
}: {
  dial: Dial;
  rings: readonly number[];
}): ReactElement {
  const middle = size / 2;
  return (
    <>
      {rings
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
}

/** Where the lap has been: dots, and triangles where it went wrong there. */
export function Visits({
  visits,
}: {
  visits: readonly { place: Place; wrong: boolean }[];
}): ReactElement {
  return (
    <>
      {visits.map(({ place: [x, y], wrong }, index) =>
        wrong ? (
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
    </>
  );
}

/** Words on a dial, where there is room for them. */
export function DialWords({
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

/** A dial of loads: drag the handle, or use the arrow keys. */
export function LoadDial({
  label,
  dial,
  load,
  figure,
  isPad,
  onLoad,
  children,
  ...data
}: {
  label: string;
  dial: Dial;
  load: Load;
  /** Where the handle's figure finds room. */
  figure: Place | null;
  /** The load is the dial's own, not a moment's of the lap. */
  isPad: boolean;
  onLoad: (load: Load) => void;
  /** What lies under the handle. */
  children: ReactNode;
  "data-load-pad"?: boolean;
  "data-drain-rose"?: boolean;
}): ReactElement {
  const [focused, setFocused] = useState(false);
  const { size, rim } = dial;

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
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={rim}
      aria-valuenow={Math.round(total * 100) / 100}
      aria-valuetext={loadWords(load)}
      className="touch-none font-figure select-none"
      onKeyDown={onKey}
      onFocus={() => setFocused(true)}
      onBlur={() => setFocused(false)}
      {...data}
      {...drag}
    >
      {children}
      <Handle
        dial={dial}
        at={placeOf(dial, load)}
        figure={figure}
        total={total}
        isHeavy={focused || isPad}
      />
    </svg>
  );
}
