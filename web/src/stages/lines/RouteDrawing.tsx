import { useRef, useState, type ReactElement } from "react";
import type { Line, Lines } from "../../api/lines";
import { pathOf, type Point } from "../../drawing/geometry";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { Around, KeptFree, Names } from "./AroundLines";
import {
  drawnWay,
  frameOf,
  numberPlaces,
  onPage,
  placesOf,
  type Frame,
  type Spot,
  type View,
  type WayPoint,
} from "./frame";
import { isBare } from "./sentence";
import { WayPoints } from "./WayPoints";

const VIEWS: readonly View[] = ["plan", "side"];
const HOSE_INK: Record<Line["state"], string> = {
  good: "var(--metal-ink)",
  caution: "var(--metal-ink)",
  bad: "var(--bad)",
};

function OneLine({
  line,
  places,
  at,
  wide,
  isPicked,
  onPick,
}: {
  line: Line;
  places: readonly Point[];
  /** Where its number stands. */
  at: Point;
  wide: number;
  isPicked: boolean;
  onPick: () => void;
}): ReactElement {
  const oil = isBare(line) ? "var(--panel)" : "var(--oil)";
  return (
    <g onClick={onPick} className="cursor-pointer" data-line={line.number}>
      <path
        d={pathOf(places, false)}
        fill="none"
        stroke={HOSE_INK[line.state]}
        strokeWidth={wide + 2.5}
        strokeDasharray={line.state === "bad" ? "10 3" : undefined}
      />
      <path
        d={pathOf(places, false)}
        fill="none"
        stroke={isPicked ? oil : "var(--panel)"}
        strokeWidth={wide}
      />
      <KeptFree places={places} wide={wide} />
      <circle
        cx={at[0]}
        cy={at[1]}
        r="9"
        data-keep-free
        fill={isPicked ? "var(--ink)" : "var(--panel)"}
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <Words
        rank="title"
        x={at[0]}
        y={at[1] + 4.5}
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        fill={isPicked ? "var(--paper)" : "var(--ink)"}
      >
        {line.number}
      </Words>
    </g>
  );
}

/** Every line that is laid, in one view; the picked one over the others. */
function AllLines({
  lines,
  ways,
  frame,
  view,
  picked,
  onPick,
}: {
  lines: readonly Line[];
  ways: readonly (readonly Spot[])[];
  frame: Frame;
  view: View;
  picked: string | undefined;
  onPick: (id: string) => void;
}): ReactElement {
  const places = ways.map((way) => way.map((spot) => onPage(frame, view, spot)));
  const numbers = numberPlaces(places);
  const order = lines.map((_, at) => at);
  order.sort((a, b) => Number(lines[a]?.id === picked) - Number(lines[b]?.id === picked));
  return (
    <>
      {order.map((index) => {
        const [line, at, way] = [lines[index], numbers[index], places[index]];
        if (!line || !at || !way) return null;
        return (
          <OneLine
            key={line.id}
            line={line}
            places={way}
            at={at}
            wide={Math.max(4, (line.outside_mm ?? 20) * frame.scale)}
            isPicked={line.id === picked}
            onPick={() => onPick(line.id)}
          />
        );
      })}
    </>
  );
}

function Scale({ frame }: { frame: Frame }): ReactElement {
  const { system, units } = useSettings();
  const choices = system === "metric" ? [50, 100, 200, 500, 1000] : [50.8, 101.6, 203.2, 609.6];
  const mm = choices.find((each) => each * frame.scale > 70) ?? choices.at(-1) ?? 100;
  const { figure, unit } = lengthAs(units, system, mm);
  const [x, y] = [34, frame.height - 16];
  return (
    <g>
      {[0, 1, 2, 3].map((part) => (
        <rect
          key={part}
          x={x + (part * mm * frame.scale) / 4}
          y={y}
          width={(mm * frame.scale) / 4}
          height="5"
          fill={part % 2 === 0 ? "var(--ink)" : "var(--panel)"}
          stroke="var(--ink)"
          strokeWidth="0.9"
        />
      ))}
      <Words rank="title" x={x + mm * frame.scale + 8} y={y + 7} fontSize="13" fill="var(--ink)">
        {figure} {unit}
      </Words>
    </g>
  );
}

/** The tightest gap of the picked line: where, and how much. */
function TightestGap({ line, frame }: { line: Line; frame: Frame }): ReactElement | null {
  const { system, units } = useSettings();
  const gap = line.gaps[0];
  if (!gap) return null;
  const at = onPage(frame, "plan", gap.at_mm);
  const { figure, unit } = lengthAs(units, system, gap.gap_mm);
  const isShort = gap.gap_mm < gap.wanted_mm;
  const words =
    gap.gap_mm <= 0 ? `touches the ${gap.name}` : `${figure} ${unit} to the ${gap.name}`;
  return (
    <Words
      rank="gap"
      x={at[0] + 16}
      y={at[1] + 26}
      anchor={at}
      fontSize="14"
      fontWeight="600"
      fill={isShort ? "var(--bad)" : "var(--ink)"}
      {...HALO}
    >
      {words}
    </Words>
  );
}

/** All lines over the car, from above and from the left; the picked one's points can be dragged. */
export function RouteDrawing({
  lines,
  picked,
  width,
  mostHeight,
  onPick,
  onLaid,
}: {
  lines: Lines;
  picked: Line | null;
  width: number;
  mostHeight: number;
  onPick: (id: string) => void;
  onLaid: (points: WayPoint[]) => void;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; points: WayPoint[] } | null>(null);
  useClearWords(svg);
  const frame = frameOf(placesOf(lines), width, mostHeight);
  const known: WayPoint[] = (picked?.points ?? []).map(({ at_mm, radius_mm }) => ({
    at_mm: at_mm,
    radius_mm,
  }));
  const points = drag && drag.id === picked?.id ? drag.points : known;
  const moved = (index: number, at: Spot): WayPoint[] =>
    points.map((each, n) => (n === index ? { ...each, at_mm: at } : each));
  const ground = lines.ground_mm === null ? null : onPage(frame, "side", [0, 0, lines.ground_mm]);
  const ways = lines.lines.map(({ id, drawn_mm }): readonly Spot[] =>
    id === picked?.id && drag ? drawnWay(points) : drawn_mm,
  );
  const drop = (index: number, at: Spot | null): void => {
    setDrag(null);
    const was = known[index]?.at_mm;
    if (at && was && at.some((value, axis) => Math.abs(value - (was[axis] ?? 0)) > 0.4))
      onLaid(moved(index, at));
  };
  return (
    <svg
      ref={svg}
      width={width}
      height={frame.height}
      role="group"
      aria-label="Lines over the car, from above and from the left"
      className="block"
      fill="var(--ink)"
    >
      <Words rank="title" x={34} y={16} fontSize="13" fontWeight="600">
        From above
      </Words>
      <Words rank="title" x={34} y={frame.sideTop - 22} fontSize="13" fontWeight="600">
        From the left
      </Words>
      <Words rank="title" x={112} y={frame.sideTop - 22} fontSize="13" fill="var(--ink-2)">
        same scale
      </Words>
      <path d={`M10 ${frame.planTop + 60}l10 -6v12z`} />
      <Words rank="title" x={6} y={frame.planTop + 48} fontSize="12">
        nose
      </Words>
      {VIEWS.map((view) => (
        <g key={view}>
          <Around lines={lines} frame={frame} view={view} />
          <AllLines
            lines={lines.lines}
            ways={ways}
            frame={frame}
            view={view}
            picked={picked?.id}
            onPick={onPick}
          />
          {picked && (
            <WayPoints
              points={points}
              frame={frame}
              view={view}
              onDrag={(index, at) => setDrag({ id: picked.id, points: moved(index, at) })}
              onDrop={drop}
            />
          )}
        </g>
      ))}
      {VIEWS.map((view) => (
        <Names key={view} lines={lines} frame={frame} view={view} />
      ))}
      {ground && ground[1] < frame.height - 20 && (
        <path d={`M20 ${ground[1]}H${width - 20}`} stroke="var(--ink)" strokeWidth="1.5" />
      )}
      {picked && !drag && <TightestGap line={picked} frame={frame} />}
      <Scale frame={frame} />
    </svg>
  );
}
