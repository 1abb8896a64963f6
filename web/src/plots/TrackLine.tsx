import type { ReactElement } from "react";

type Line = readonly (readonly [number, number])[];

interface Label {
  at: readonly [number, number];
  words: string;
  hand: "left" | "right";
  picked: boolean;
}

/** The direction [page] that a corner's outside lies in: right of a left turn. */
function outside(line: Line, { at, hand }: Label): [number, number] {
  const far = (point: readonly [number, number]): number =>
    Math.hypot(point[0] - at[0], point[1] - at[1]);
  let nearest = 0;
  line.forEach((point, index) => {
    if (far(point) < far(line[nearest] ?? point)) nearest = index;
  });
  const [before, after] = [line[Math.max(0, nearest - 3)], line[nearest + 3]];
  if (!before || !after) return [0, -1];
  const [dx, dy] = [after[0] - before[0], after[1] - before[1]];
  const length = Math.hypot(dx, dy) || 1;
  const right: [number, number] = [dy / length, dx / length]; // page y runs down
  return hand === "left" ? right : [-right[0], -right[1]];
}

/** The line driven, as drawn from speed and side g, with marks at shares of the lap's time. */
export function TrackLine({
  line,
  marks,
  here,
  width,
  height,
  labels = [],
}: {
  line: Line;
  marks: readonly number[];
  here: number | null;
  /** Words beside places on the line [m]. */
  labels?: readonly Label[];
  width: number;
  height: number;
}): ReactElement | null {
  if (line.length < 2) return null;
  const margin = labels.length > 0 ? 60 : 16;
  const xs = line.map((point) => point[0]);
  const ys = line.map((point) => point[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (width - margin) / Math.max(1, right - left),
    (height - margin) / Math.max(1, high - low),
  );
  const place = (point: readonly [number, number] | undefined): [number, number] => [
    width / 2 + ((point?.[0] ?? 0) - (left + right) / 2) * scale,
    height / 2 - ((point?.[1] ?? 0) - (low + high) / 2) * scale,
  ];
  const at = (share: number): [number, number] =>
    place(line[Math.round(share * (line.length - 1))]);
  const path = line
    .map((point) =>
      place(point)
        .map((v) => v.toFixed(1))
        .join(" "),
    )
    .join("L");
  const [startX, startY] = place(line[0]);
  return (
    <svg width={width} height={height} role="img" aria-label="The line driven" className="shrink-0">
      <path d={`M${path}`} fill="none" stroke="var(--ink)" strokeWidth="2" strokeLinejoin="round" />
      <path d={`M${startX} ${startY - 5}v10`} stroke="var(--ink)" strokeWidth="2" />
      {labels.map((label) => {
        const { at: spot, words, picked } = label;
        const [x, y] = place(spot);
        const [outX, outY] = outside(line, label);
        const out = 8 + 3 * Math.min(words.length, 8) * Math.abs(outX) + 6 * Math.abs(outY);
        return (
          <g key={words}>
            <circle cx={x} cy={y} r={picked ? 4 : 2.5} fill="var(--ink)" />
            <text
              x={x + outX * out}
              y={y + outY * out + 4}
              fontSize="13"
              fontWeight={picked ? 700 : 500}
              textAnchor="middle"
              fill="var(--ink)"
              stroke="var(--paper)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {words}
            </text>
          </g>
        );
      })}
      {marks.map((share) => {
        const [x, y] = at(share);
        return <path key={share} d={`M${x} ${y - 5}l5 9h-10z`} fill="var(--bad)" />;
      })}
      {here !== null && (
        <circle
          cx={at(here)[0]}
          cy={at(here)[1]}
          r="4.5"
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth="2"
        />
      )}
    </svg>
  );
}
