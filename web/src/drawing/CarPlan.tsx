import type { KeyboardEvent, ReactElement } from "react";

export type NosePoints = "front" | "rear" | "left" | "right";
export type EnginePlace = "front" | "middle" | "rear";

const PLACES: { place: EnginePlace; x: number }[] = [
  { place: "front", x: 118 },
  { place: "middle", x: 268 },
  { place: "rear", x: 388 },
];
// on the page the car's nose is left and its right side up
const TURNS: Record<NosePoints, number> = { front: 0, right: 90, rear: 180, left: 270 };
const HALF = 46;

function Wheel({ x, y }: { x: number; y: number }): ReactElement {
  return (
    <rect
      x={x - 28}
      y={y - 9}
      width="56"
      height="18"
      rx="3"
      fill="var(--metal-3)"
      stroke="var(--ink)"
    />
  );
}

function Axis({
  x,
  y,
  turn,
  length,
  words,
  size = 13,
  color,
}: {
  x: number;
  y: number;
  turn: number;
  length: number;
  words: string;
  size?: number;
  color: string;
}): ReactElement {
  const angle = (turn * Math.PI) / 180;
  const [tipX, tipY] = [x + length * Math.cos(angle), y + length * Math.sin(angle)];
  const beyond = length + 12;
  const [textX, textY] = [x + beyond * Math.cos(angle), y + beyond * Math.sin(angle)];
  const anchor = Math.cos(angle) > 0.5 ? "start" : Math.cos(angle) < -0.5 ? "end" : "middle";
  return (
    <g stroke={color} fill={color}>
      <path d={`M${x} ${y}L${tipX} ${tipY}`} strokeWidth="1.75" />
      <path d="M3 0l-10 -4.5v9z" transform={`translate(${tipX} ${tipY}) rotate(${turn})`} />
      <text
        x={textX}
        y={textY + 4}
        fontSize={size}
        fontWeight="600"
        textAnchor={anchor}
        stroke="none"
      >
        {words}
      </text>
    </g>
  );
}

/** The car from above, nose left: pick where the engine sits and where its crank's nose points. */
export function CarPlan({
  place,
  nose,
  cylinders,
  width,
  onPlace,
  onNose,
}: {
  place: EnginePlace | null;
  nose: NosePoints;
  cylinders: "in_line" | "vee" | "flat" | null;
  width: number;
  onPlace: (place: EnginePlace) => void;
  onNose: (nose: NosePoints) => void;
}): ReactElement {
  const scale = Math.min(1.5, width / 520);
  const size = Math.max(13, 12.5 / scale); // never under 12 px on the page
  const at = PLACES.find((each) => each.place === place)?.x ?? 118;
  // pressed with the keyboard as with a finger
  const pick = (words: string, pressed: boolean, run: () => void): Record<string, unknown> => ({
    role: "button",
    tabIndex: 0,
    "aria-label": words,
    "aria-pressed": pressed,
    onClick: run,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      event.stopPropagation();
      run();
    },
    className: "cursor-pointer",
  });
  const wide =
    cylinders === "in_line" ? 24 : cylinders === "vee" ? 36 : cylinders === "flat" ? 44 : 28;
  return (
    <svg width={520 * scale} height={270 * scale} viewBox="0 0 520 270" data-car-plan>
      <path
        d="M40 135q0 -62 60 -66h290q72 4 82 40v52q-10 36 -82 40H100q-60 -4 -60 -66z"
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.75"
      />
      <path
        d="M196 84q-24 51 0 102M330 84q20 51 0 102M196 84h134M196 186h134"
        fill="none"
        stroke="var(--line)"
      />
      <Wheel x={118} y={66} />
      <Wheel x={118} y={204} />
      <Wheel x={388} y={66} />
      <Wheel x={388} y={204} />
      <path d="M18 135l14 -6v12z" fill="var(--ink)" />
      <text x="4" y="120" fontSize={size} fontWeight="600" fill="var(--ink)">
        nose
      </text>
      {PLACES.map((each) => (
        <g
          key={each.place}
          {...pick(`Engine in the ${each.place}`, each.place === place, () => onPlace(each.place))}
        >
          <rect
            x={each.x - 52}
            y={135 - 50}
            width="104"
            height="100"
            fill="transparent"
            stroke="var(--line)"
            strokeDasharray="10 3 2 3 2 3"
          />
        </g>
      ))}
      <g transform={`rotate(${TURNS[nose]} ${at} 135)`} pointerEvents="none">
        <rect
          x={at - HALF}
          y={135 - wide}
          width={2 * HALF}
          height={2 * wide}
          fill="var(--metal)"
          stroke="var(--ink)"
          strokeWidth="1.75"
        />
        <path d={`M${at - HALF} 135h${2 * HALF}`} stroke="var(--ink)" strokeDasharray="12 3 2 3" />
        <circle cx={at - HALF - 6} cy="135" r="7" fill="var(--metal-2)" stroke="var(--ink)" />
      </g>
      {(Object.keys(TURNS) as NosePoints[]).map((each) => {
        const angle = ((180 + TURNS[each]) * Math.PI) / 180;
        const [x, y] = [at + 66 * Math.cos(angle), 135 + 62 * Math.sin(angle)];
        return (
          <g key={each} {...pick(`Crank's nose to the ${each}`, each === nose, () => onNose(each))}>
            <circle cx={x} cy={y} r={Math.max(12, 20 / scale)} fill="transparent" />
            <circle
              cx={x}
              cy={y}
              r="12"
              fill={each === nose ? "var(--ink)" : "var(--panel)"}
              stroke="var(--ink)"
            />
            <path
              d="M5 0l-8 -5v10z"
              fill={each === nose ? "var(--paper)" : "var(--ink)"}
              transform={`translate(${x} ${y}) rotate(${180 + TURNS[each]})`}
            />
          </g>
        );
      })}
      <Axis
        x={496}
        y={236}
        turn={180}
        length={40}
        words="car x, forward"
        size={size}
        color="var(--ink-2)"
      />
      <Axis x={496} y={236} turn={90} length={18} words="" color="var(--ink-2)" />
      <text x={490} y={266} fontSize={size} fontWeight="600" textAnchor="end" fill="var(--ink-2)">
        car y, left
      </text>
      <Axis x={at} y={135} turn={180 + TURNS[nose]} length={34} words="" color="var(--ink)" />
      <Axis x={at} y={135} turn={90 + TURNS[nose]} length={26} words="" color="var(--ink)" />
    </svg>
  );
}
