import { useRef, type ReactElement } from "react";
import type { FitFrame, FitView } from "../../api/fit";
import { pathOf, type Point } from "../../drawing/geometry";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { layoutOf, TITLES, type Key, type Layout } from "./envelope";
import type { PlaceNow } from "./standing";
import { gapWords } from "./words";

const TRIANGLE = "M0 -11 12 9H-12z";
const HATCH = 9;

/** A place's number in the shape of how it stands: the same on drawing, table and phone. */
export function Badge({
  place,
  at,
  isPicked,
}: {
  place: PlaceNow;
  at: Point;
  isPicked?: boolean;
}): ReactElement {
  const { state } = place;
  const isRound = state === "sound" || state === "accepted" || state === "not_looked";
  const fill =
    state === "touches"
      ? "var(--bad)"
      : state === "sound" || state === "accepted"
        ? "var(--good)"
        : "var(--panel)";
  const ink =
    state === "touches" || state === "sound" || state === "accepted"
      ? "var(--panel)"
      : "var(--ink)";
  return (
    <g
      transform={`translate(${at[0].toFixed(1)} ${at[1].toFixed(1)})`}
      data-place={place.id}
      data-state={state}
    >
      {isPicked && <circle r="16" fill="none" stroke="var(--ink)" strokeWidth="2" data-keep-free />}
      {isRound ? (
        <circle
          r="10"
          data-keep-free
          fill={fill}
          stroke={state === "not_looked" ? "var(--line)" : fill}
          strokeWidth="1.5"
          strokeDasharray={state === "not_looked" ? "3 2.6" : undefined}
        />
      ) : (
        <path
          d={TRIANGLE}
          data-keep-free
          fill={fill}
          stroke={state === "tight" ? "var(--ink)" : fill}
          strokeWidth="1.5"
        />
      )}
      <Words
        rank="title"
        textAnchor="middle"
        dy={isRound ? "0.36em" : "0.5em"}
        fontSize="13"
        fontWeight="700"
        className="font-figure"
        fill={ink}
      >
        {place.number}
      </Words>
    </g>
  );
}

function Ground({ view, layout }: { view: FitView; layout: Layout }): ReactElement | null {
  const [one, other] = view.ground_mm;
  if (!one || !other) return null;
  const [a, b] = [layout.place(one), layout.place(other)];
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  const down = ux >= 0 ? 1 : -1;
  const marks = Array.from({ length: Math.floor(long / HATCH) }, (_, k) => {
    const [x, y] = [a[0] + ux * HATCH * k, a[1] + uy * HATCH * k];
    return `M${x.toFixed(1)} ${y.toFixed(1)}l-4 ${7 * (down > 0 ? 1 : 1)}`;
  });
  return (
    <g stroke="var(--ink)" fill="none">
      <path d={pathOf([a, b], false)} strokeWidth="1.5" data-keep-free />
      <path d={marks.join("")} strokeWidth="0.8" />
    </g>
  );
}

/** Where a place is measured: from the part to what is beside it. */
function Measured({
  ends,
  layout,
}: {
  ends: readonly [Spot | null, Spot | null];
  layout: Layout;
}): ReactElement | null {
  const [at, to] = ends;
  if (!at || !to) return null;
  return (
    <path
      d={pathOf([layout.spot(at), layout.spot(to)], false)}
      stroke="var(--ink)"
      strokeWidth="2"
      data-keep-free
    />
  );
}

type Spot = readonly [number, number, number];
const AWAY = 26;

/** Off the pan's middle, so that a number does not lie on what it names. */
function badgeAt(spot: Point, middle: Point): Point {
  const [x, y] = [spot[0] - middle[0], spot[1] - middle[1]];
  const long = Math.max(1, Math.hypot(x, y));
  return [spot[0] + (AWAY * x) / long, spot[1] + (AWAY * y) / long];
}

/** Numbers that would lie on each other are moved apart, in their order. */
function apart(wanted: Point[], width: number, height: number): Point[] {
  const placed: Point[] = [];
  for (const point of wanted) {
    let at: Point = point;
    for (let turn = 0; turn < 24; turn += 1) {
      if (!placed.some(([x, y]) => Math.hypot(x - at[0], y - at[1]) < 27)) break;
      const angle = turn * 0.9;
      const reach = 8 + turn * 4;
      at = [point[0] + reach * Math.cos(angle), point[1] + reach * Math.sin(angle)];
    }
    placed.push([
      Math.min(width - 14, Math.max(14, at[0])),
      Math.min(height - 14, Math.max(14, at[1])),
    ]);
  }
  return placed;
}

/** What is round the pan, each with its name. */
function Beside({ view, layout }: { view: FitView; layout: Layout }): ReactElement {
  return (
    <>
      {view.beside.map(({ id, name, outline_mm: ring }) => {
        const points = ring.map(layout.place);
        const [x, y] = [
          points.reduce((sum, p) => sum + p[0], 0) / points.length,
          points.reduce((sum, p) => sum + p[1], 0) / points.length,
        ];
        return (
          <g key={id}>
            <path
              d={pathOf(points)}
              fill="none"
              stroke="var(--line)"
              strokeWidth="1.25"
              strokeDasharray="10 3 2 3 2 3"
            />
            <Words
              rank="name"
              anchor={[x, y]}
              x={x}
              y={y + 4}
              fontSize="13"
              textAnchor="middle"
              fill="var(--ink-2)"
              {...HALO}
            >
              {name}
            </Words>
          </g>
        );
      })}
    </>
  );
}

/** A place's number beside where it is, with the gap last found. */
function Numbered({
  place,
  spot,
  at,
  isPicked,
  onPick,
}: {
  place: PlaceNow;
  spot: Point;
  at: Point;
  isPicked: boolean;
  onPick: (id: string) => void;
}): ReactElement {
  const { units, system } = useSettings();
  const last = place.found.at(-1);
  const words = place.state === "not_looked" || !last ? "" : gapWords(last, units, system);
  return (
    <g>
      <g
        role="button"
        tabIndex={0}
        aria-label={`${place.number}, ${place.name}${words ? `, ${words}` : ""}`}
        aria-pressed={isPicked}
        onClick={() => onPick(place.id)}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === " ") onPick(place.id);
        }}
        className="cursor-pointer"
      >
        <path d={pathOf([spot, at], false)} stroke="var(--ink-2)" strokeWidth="0.9" />
        <circle cx={at[0]} cy={at[1]} r="22" fill="transparent" />
        <Badge place={place} at={at} isPicked={isPicked} />
      </g>
      {words && (
        <Words
          rank="gap"
          x={at[0] + 16}
          y={at[1] + 5}
          fontSize="15"
          fontWeight="600"
          className="font-figure"
          fill="var(--ink)"
          {...HALO}
        >
          {words}
        </Words>
      )}
    </g>
  );
}

/** The pan among what is round it, seen one way, with the places where something may touch. */
export function Envelope({
  frame,
  view,
  places,
  picked,
  width,
  mostHeight,
  isNear = false,
  mark = null,
  onPick,
  onPoint,
}: {
  frame: FitFrame;
  view: FitView;
  places: readonly PlaceNow[];
  picked: string | undefined;
  width: number;
  mostHeight: number;
  /** Only the place that is picked, from near. */
  isNear?: boolean;
  /** A place that is being pointed at. */
  mark?: Spot | null;
  onPick: (id: string) => void;
  /** The drawing was pointed at, in the view's own figures. */
  onPoint?: (at: Point) => void;
}): ReactElement {
  const sheet = useRef<SVGSVGElement>(null);
  const ends = (id: string | undefined): [Spot | null, Spot | null] =>
    (frame.places[id ?? ""] as [Spot | null, Spot | null] | undefined) ?? [null, null];
  const near = isNear ? ends(picked)[0] : null;
  const layout = layoutOf(view, width, mostHeight, near);
  const key = view.key as Key;
  useClearWords(sheet);
  const pan = view.pan_mm.map((ring) => ring.map(layout.place));
  const every = pan.flat();
  const middle: Point = [
    every.reduce((sum, [x]) => sum + x, 0) / Math.max(1, every.length),
    every.reduce((sum, [, y]) => sum + y, 0) / Math.max(1, every.length),
  ];
  const shown = places.flatMap((place) => {
    const [at, to] = ends(place.id);
    const isShown = at !== null && (near === null || place.id === picked);
    return isShown ? [{ place, ends: [at, to] as const, spot: layout.spot(at) }] : [];
  });
  const badges = apart(
    shown.map(({ spot }) => badgeAt(spot, middle)),
    layout.width,
    layout.height,
  );
  const [title, how] = TITLES[key];
  return (
    <figure className="min-w-0">
      <svg
        ref={sheet}
        viewBox={`0 0 ${layout.width} ${layout.height.toFixed(0)}`}
        width="100%"
        role="group"
        aria-label={`${title}, ${how}`}
        data-view={view.key}
        overflow="hidden"
        className={onPoint ? "cursor-crosshair" : undefined}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const shrunk = box.width > 0 ? layout.width / box.width : 1;
          onPoint?.(
            layout.back([(event.clientX - box.left) * shrunk, (event.clientY - box.top) * shrunk]),
          );
        }}
      >
        <Beside view={view} layout={layout} />
        {view.crank_mm.length > 2 && (
          <path
            d={pathOf(view.crank_mm.map(layout.place))}
            fill="none"
            stroke="var(--line)"
            strokeDasharray="12 3 2 3"
          />
        )}
        {pan.map((ring, at) => (
          <path
            key={at}
            d={pathOf(ring)}
            fill="var(--metal-2)"
            stroke="var(--metal-ink)"
            strokeWidth="1.75"
            strokeLinejoin="round"
          />
        ))}
        <Ground view={view} layout={layout} />
        {shown.map(({ place, ends }) => (
          <Measured key={place.id} ends={ends} layout={layout} />
        ))}
        {mark && (
          <path
            d="M-12 0h24M0 -12v24"
            stroke="var(--ink)"
            strokeWidth="2"
            transform={`translate(${layout
              .spot(mark)
              .map((at) => at.toFixed(1))
              .join(" ")})`}
            data-mark
          />
        )}
        {shown.map(({ place, spot }, n) => (
          <Numbered
            key={place.id}
            place={place}
            spot={spot}
            at={badges[n] ?? spot}
            isPicked={place.id === picked}
            onPick={onPick}
          />
        ))}
      </svg>
      <figcaption className="px-4 font-figure text-[14px]">
        <strong>{title}</strong> <span className="text-ink-2">{how}</span>
      </figcaption>
    </figure>
  );
}
