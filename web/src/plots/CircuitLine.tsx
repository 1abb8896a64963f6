import type { ReactElement } from "react";

type Line = readonly (readonly [number, number])[];

/** The line driven, as drawn from speed and side g, with marks at shares of the lap's time. */
export function CircuitLine({
  line,
  marks,
  here,
  width,
  height,
}: {
  line: Line;
  marks: readonly number[];
  here: number | null;
  width: number;
  height: number;
}): ReactElement | null {
  if (line.length < 2) return null;
  const xs = line.map((point) => point[0]);
  const ys = line.map((point) => point[1]);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (width - 16) / Math.max(1, right - left),
    (height - 16) / Math.max(1, high - low),
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
