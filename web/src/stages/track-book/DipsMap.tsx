import { useRef, type ReactElement } from "react";
import type { Judged, PlaceJudged } from "../../api/judged";
import { pathOf, type Point } from "../../drawing/geometry";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { DipMark } from "./DipMark";
import { keyOf, placeMark } from "./judgedWords";

const MARGIN = 34;

/** Where on the page the line driven lies: metres to points. */
export function placed(
  line: readonly Point[],
  width: number,
  mostHeight: number,
): { place: (point: Point) => Point; height: number } {
  const xs = line.map(([x]) => x);
  const ys = line.map(([, y]) => y);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (width - 2 * MARGIN) / Math.max(1, right - left),
    (mostHeight - 2 * MARGIN) / Math.max(1, high - low),
  );
  const height = 2 * MARGIN + scale * Math.max(1, high - low);
  const spare = (width - 2 * MARGIN - scale * Math.max(1, right - left)) / 2;
  return {
    place: ([x, y]) => [MARGIN + spare + (x - left) * scale, MARGIN + (high - y) * scale],
    height,
  };
}

/** The line driven, with where the gallery was forecast to dip and where it did. */
export function DipsMap({
  judged,
  width,
  mostHeight,
  picked,
  onPick,
}: {
  judged: Judged;
  width: number;
  mostHeight: number;
  picked: PlaceJudged | null;
  onPick: (place: PlaceJudged) => void;
}): ReactElement | null {
  const sheet = useRef<SVGSVGElement>(null);
  useClearWords(sheet);
  if (judged.line_m.length < 2 || width <= 0) return null;
  const { place, height } = placed(judged.line_m, width, mostHeight);
  const points = judged.line_m.map(place);
  const middle = place([
    judged.line_m.reduce((sum, [x]) => sum + x, 0) / judged.line_m.length,
    judged.line_m.reduce((sum, [, y]) => sum + y, 0) / judged.line_m.length,
  ]);
  const [start, next] = [points[0], points[2] ?? points[1]];
  const turn =
    start && next ? (Math.atan2(next[1] - start[1], next[0] - start[0]) * 180) / Math.PI : 0;
  return (
    <svg
      ref={sheet}
      viewBox={`0 0 ${width} ${height.toFixed(0)}`}
      width="100%"
      role="group"
      aria-label="The line driven, with where the gallery dipped"
    >
      <path
        d={pathOf(points)}
        fill="none"
        stroke="var(--line)"
        strokeWidth="9"
        strokeLinejoin="round"
      />
      <path
        d={pathOf(points)}
        fill="none"
        stroke="var(--paper)"
        strokeWidth="7"
        strokeLinejoin="round"
      />
      <path
        d={pathOf(points)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.4"
        strokeLinejoin="round"
      />
      {start && (
        <g
          transform={`translate(${start[0].toFixed(1)} ${start[1].toFixed(1)}) rotate(${turn.toFixed(0)})`}
        >
          <path d="M0 -8v16" stroke="var(--ink)" strokeWidth="2" />
          <path d="M6 -4 14 0 6 4z" fill="var(--ink)" />
        </g>
      )}
      {judged.places.map((row) => {
        if (!row.at_m) return null;
        const [x, y] = place(row.at_m);
        const [dx, dy] = [x - middle[0], y - middle[1]];
        const far = Math.max(1, Math.hypot(dx, dy));
        const isPicked = picked !== null && keyOf(picked) === keyOf(row);
        return (
          <g
            key={keyOf(row)}
            role="button"
            tabIndex={0}
            aria-label={`${placeMark(row)}, ${row.name}: ${row.word.replace("_", " ")}, ${row.laps} of ${row.of} laps`}
            aria-pressed={isPicked}
            className="cursor-pointer"
            onClick={() => onPick(row)}
            onKeyDown={(event) => {
              if (event.key === "Enter" || event.key === " ") onPick(row);
            }}
          >
            <circle cx={x} cy={y} r="22" fill="transparent" />
            <g transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}>
              {isPicked && <circle r="14" fill="none" stroke="var(--ink)" strokeWidth="1.5" />}
              <DipMark word={row.word} />
            </g>
            <Words
              rank="title"
              x={x + (26 * dx) / far}
              y={y + (26 * dy) / far + 5}
              fontSize="15"
              fontWeight="600"
              textAnchor="middle"
              className="font-figure"
              fill={row.word === "miss" && judged.count.has_forecast ? "var(--bad)" : "var(--ink)"}
              {...HALO}
            >
              {placeMark(row)}
            </Words>
          </g>
        );
      })}
    </svg>
  );
}
