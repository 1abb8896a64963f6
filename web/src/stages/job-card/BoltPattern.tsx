import { useState, type PointerEvent, type ReactElement } from "react";
import type { Flange, Step } from "../../api/job";
import { nearestBolt, nextBolt, ordered, pageOf, type Place } from "./bolts";

const REACH = 44;
const RING = 13;
const NEXT_RING = 20;
const SMALL_RING = 9;
/** Under this many pixels between bolts their rings are drawn small. */
const CLOSE = 30;

const pathOf = (points: readonly Place[]): string =>
  `M${points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;

const TICK = "M-5 0.4l3.6 3.8 6.6 -7.6";

/** A bolt: its number in the order, or ticked. */
function BoltMark({
  bolt,
  at,
  look,
  ring,
  number,
}: {
  bolt: number;
  at: Place;
  look: "tight" | "next" | "loose";
  ring: number;
  /** Which it is in the order; null: not yet any. */
  number: number | null;
}): ReactElement {
  const tight = look === "tight";
  const isNext = look === "next";
  return (
    <g transform={`translate(${at[0].toFixed(1)} ${at[1].toFixed(1)})`} data-bolt={bolt}>
      <circle
        r={ring}
        fill={tight ? "var(--good)" : "var(--panel)"}
        stroke={tight ? "var(--good)" : "var(--ink)"}
        strokeWidth={isNext ? 3 : 1.5}
      />
      {tight ? (
        <path
          d={TICK}
          fill="none"
          stroke="var(--panel)"
          strokeWidth="2.4"
          transform={`scale(${(ring / RING).toFixed(2)})`}
        />
      ) : (
        <text
          textAnchor="middle"
          dy="0.35em"
          fontSize={isNext ? 22 : ring < RING ? 12 : 15}
          fontWeight="600"
          className="font-figure"
          fill="var(--ink)"
        >
          {number}
        </text>
      )}
    </g>
  );
}

/** The order in which they go: from the middle out, or touched by the builder. */
function OrderChoice({
  flange,
  own,
  onOwn,
  onOrder,
}: {
  flange: Flange;
  /** What is touched so far of an order of the builder's own; null: none is being said. */
  own: number[] | null;
  onOwn: (own: number[] | null) => void;
  onOrder: (pattern: number[] | null) => void;
}): ReactElement {
  return (
    <p className="flex flex-wrap items-center gap-x-4 text-[14px] text-ink-2">
      {own === null ? (
        <>
          <button type="button" className="min-h-8 underline" onClick={() => onOwn([])}>
            An order of your own
          </button>
          {flange.is_own && (
            <button type="button" className="min-h-8 underline" onClick={() => onOrder(null)}>
              From the middle out again
            </button>
          )}
        </>
      ) : (
        <>
          <span>
            Touch the bolts in your order: {own.length} of {flange.pattern.length}
          </span>
          <button
            type="button"
            className="min-h-8 underline disabled:no-underline disabled:opacity-50"
            disabled={own.length < flange.pattern.length}
            onClick={() => {
              onOrder(own);
              onOwn(null);
            }}
          >
            Keep it
          </button>
          <button type="button" className="min-h-8 underline" onClick={() => onOwn(null)}>
            Leave it
          </button>
        </>
      )}
    </p>
  );
}

/** The flange with its bolts in the order in which they are tightened; a touch takes the nearest. */
export function BoltPattern({
  flange,
  step,
  width,
  mostHeight,
  onBolt,
  onOrder,
}: {
  flange: Flange;
  step: Step;
  width: number;
  mostHeight: number;
  /** A bolt was touched: whether it is tight in the pass that is being gone through. */
  onBolt: (bolt: number, pass: number, isTight: boolean) => void;
  /** The builder's own order, every bolt once; null: from the middle out again. */
  onOrder: (pattern: number[] | null) => void;
}): ReactElement {
  const [own, setOwn] = useState<number[] | null>(null);
  const [isFromBelow, setBelow] = useState(true);
  const { place, height } = pageOf(flange, width, mostHeight, isFromBelow);
  const next = nextBolt(flange, step.tight);
  const pass = next?.pass ?? flange.passes;
  const places = flange.bolts_mm.map(place);
  const gaps = places.map((at, n) =>
    Math.min(...places.filter((_, m) => m !== n).map(([x, y]) => Math.hypot(x - at[0], y - at[1]))),
  );
  const ring = Math.min(...gaps) < CLOSE ? SMALL_RING : RING;
  const isTight = (bolt: number): boolean => step.tight.some(([p, b]) => p === pass && b === bolt);
  const order = new Map((own ?? flange.pattern).map((bolt, at) => [bolt, at]));
  const done = flange.pattern.filter(isTight);
  const tightCount = done.length;
  const [lastAt, nextAt] = [done.at(-1), next?.bolt].map((bolt) =>
    bolt === undefined ? undefined : places[bolt],
  );
  const touch = (event: PointerEvent<SVGSVGElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const shrunk = box.width > 0 ? width / box.width : 1;
    const at: Place = [(event.clientX - box.left) * shrunk, (event.clientY - box.top) * shrunk];
    const bolt = nearestBolt(places, at, REACH);
    if (bolt === null) return;
    if (own) setOwn(ordered(own, bolt));
    else onBolt(bolt, pass, isTight(bolt));
  };
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height.toFixed(0)}`}
        width="100%"
        role="img"
        aria-label={`${tightCount} of ${flange.pattern.length} bolts tight${next ? `, next is bolt ${next.number}` : ""}`}
        onPointerUp={touch}
        className="touch-manipulation select-none"
        data-bolts={tightCount}
      >
        <path
          d={pathOf(flange.outline_mm.map(place))}
          fill="var(--panel)"
          stroke="var(--metal-ink)"
          strokeWidth="9"
          strokeLinejoin="round"
        />
        <path
          d={pathOf(flange.outline_mm.map(place))}
          fill="none"
          stroke="var(--metal)"
          strokeWidth="6"
          strokeLinejoin="round"
        />
        {flange.zones_mm.map((zone, at) => (
          <path key={at} d={pathOf(zone.map(place))} fill="none" stroke="var(--hair)" />
        ))}
        {own === null &&
          done.slice(1).map((bolt, at) => {
            const [from, to] = [places[done[at] ?? 0], places[bolt]];
            return (
              from &&
              to && (
                <line
                  key={bolt}
                  x1={from[0]}
                  y1={from[1]}
                  x2={to[0]}
                  y2={to[1]}
                  stroke="var(--good)"
                  strokeWidth="1.25"
                />
              )
            );
          })}
        {own === null && lastAt && nextAt && (
          <line
            x1={lastAt[0]}
            y1={lastAt[1]}
            x2={nextAt[0]}
            y2={nextAt[1]}
            stroke="var(--ink)"
            strokeWidth="2"
            strokeDasharray="7 5"
          />
        )}
        {places.map(([x, y], bolt) => {
          const tight = own === null && isTight(bolt);
          const isNext = own === null && next?.bolt === bolt;
          return (
            <BoltMark
              key={bolt}
              bolt={bolt}
              at={[x, y]}
              look={tight ? "tight" : isNext ? "next" : "loose"}
              ring={isNext ? NEXT_RING : ring}
              number={order.has(bolt) ? (order.get(bolt) ?? 0) + 1 : null}
            />
          );
        })}
      </svg>
      <figcaption className="flex items-center justify-between gap-2 text-[14px]">
        <span className="font-figure font-semibold">
          <svg
            width="22"
            height="12"
            viewBox="0 0 22 12"
            className="mr-1 inline"
            aria-hidden="true"
          >
            <path d="M1 6 13 0v12z" fill="currentColor" />
          </svg>
          nose
        </span>
        <span className="font-figure font-semibold" role="status">
          {tightCount} of {flange.pattern.length} tight
          {flange.passes > 1 ? `, pass ${pass} of ${flange.passes}` : ""}
        </span>
        <button type="button" className="min-h-8 underline" onClick={() => setBelow(!isFromBelow)}>
          seen from {isFromBelow ? "below" : "above"}
        </button>
      </figcaption>
      <OrderChoice flange={flange} own={own} onOwn={setOwn} onOrder={onOrder} />
    </figure>
  );
}
