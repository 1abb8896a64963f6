import { useRef, useState, type ReactElement } from "react";
import type { Options } from "../../api/options";
import { ReadOut } from "../../parts/ReadOut";
import {
  AGAINST,
  along,
  lettered,
  pointsOf,
  type Against,
  type Lettered,
  type Point,
  type Spot,
} from "./front";
import { optionsTable } from "./optionsTable";

const SIZE = { width: 328, height: 258 } as const;
const ROOM = { left: 30, right: 10, top: 10, bottom: 36 } as const;
const MARK = 19;
const WIDTH = SIZE.width - ROOM.left - ROOM.right;
const HEIGHT = SIZE.height - ROOM.top - ROOM.bottom;

/** Round steps of an axis, four or five of them. */
function steps(most: number): number[] {
  const rough = most / 4;
  const ten = 10 ** Math.floor(Math.log10(Math.max(rough, 1e-6)));
  const step = [1, 2, 5, 10].map((by) => by * ten).find((by) => by >= rough) ?? ten;
  return Array.from({ length: Math.floor(most / step + 1e-9) + 1 }, (_, i) => i * step);
}

const money = [0, 30, 100, 300, 600, 1000, 2000, 4000, 8000];

/** The line of what no lesser remedy matches, as steps. */
function stair(points: readonly Point[], place: (takes: number, dry: number) => string): string {
  const kept = points.filter((each) => each.onFront).sort((a, b) => a.takes - b.takes);
  return kept
    .map((point, at) => {
      const before = kept[at - 1];
      return before
        ? `L${place(point.takes, before.dry)}L${place(point.takes, point.dry)}`
        : `M${place(point.takes, point.dry)}`;
    })
    .join("");
}

/** A remedy's letter in its square; led to its true place where it had to make way. */
function Letter({
  point,
  at,
  spot,
  isPicked,
}: {
  point: Point;
  at: Spot;
  spot: Spot;
  isPicked: boolean;
}): ReactElement {
  const isAway = Math.hypot(spot.x - at.x, spot.y - at.y) > MARK / 2;
  return (
    <>
      {isAway && (
        <>
          <path d={`M${at.x} ${at.y}L${spot.x} ${spot.y}`} stroke="var(--opt)" strokeWidth="0.9" />
          <circle cx={at.x} cy={at.y} r="2" fill="var(--opt)" />
        </>
      )}
      <rect
        x={spot.x - MARK / 2}
        y={spot.y - MARK / 2}
        width={MARK}
        height={MARK}
        fill={point.onFront ? "var(--opt)" : "var(--panel)"}
        stroke={isPicked ? "var(--ink)" : "var(--opt)"}
        strokeWidth={isPicked ? 2.5 : 1.25}
      />
      <text
        x={spot.x}
        y={spot.y + 4.5}
        textAnchor="middle"
        fontSize="13"
        fontWeight="600"
        fill={point.onFront ? "var(--panel)" : "var(--opt)"}
      >
        {point.letter}
      </text>
    </>
  );
}

/** A remedy: its letter, or a dot where there is no room for one. */
function PointMark({
  point,
  at,
  spot,
  isChosen,
  isPicked,
  onPick,
}: {
  point: Point;
  at: Spot;
  spot: Lettered;
  isChosen: boolean;
  isPicked: boolean;
  onPick: () => void;
}): ReactElement {
  const words = `${point.letter}, ${point.title}: dry ${point.dry.toFixed(1)} s`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={words}
      aria-pressed={isPicked}
      onClick={onPick}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") onPick();
      }}
      className="cursor-pointer"
    >
      <title>{words}</title>
      {isChosen && spot && (
        <circle
          cx={spot.x}
          cy={spot.y}
          r={MARK * 0.86}
          fill="none"
          stroke="var(--good)"
          strokeWidth="2"
        />
      )}
      {spot ? (
        <Letter point={point} at={at} spot={spot} isPicked={isPicked} />
      ) : (
        <circle
          cx={at.x}
          cy={at.y}
          r="3.5"
          fill="var(--panel)"
          stroke="var(--opt)"
          strokeWidth="1.25"
        />
      )}
    </g>
  );
}

/** Dry time left against what a remedy takes; filled: nothing that takes less is as dry. */
export function FrontPlot({
  options,
  picked,
  onPick,
}: {
  options: Options;
  picked: string | null;
  onPick: (key: string) => void;
}): ReactElement {
  const [against, setAgainst] = useState<Against>("cost");
  const drawing = useRef<HTMLDivElement>(null);
  const base = options.base.dry_s ?? 0;
  const points = pointsOf(options, against);
  // what is much worse than it is now lies at the upper edge: nobody asks by how much
  const mostDry = Math.max(
    0.5,
    1.15 * base,
    ...points.map((each) => Math.min(each.dry, 1.15 * base)),
  );
  const mostTakes = Math.max(1, ...points.map((each) => each.takes)) * 1.04;
  const x = (takes: number): number => along(takes, mostTakes, against) * WIDTH;
  const y = (dry: number): number => HEIGHT - (Math.min(dry, mostDry) / mostDry) * HEIGHT;
  const matters = (each: Point): boolean =>
    each.key === picked || each.key === options.choice.key || each.onFront;
  const order = [...points].sort(
    (a, b) =>
      Number(b.key === picked) - Number(a.key === picked) ||
      Number(matters(b)) - Number(matters(a)),
  );
  const spots = lettered(
    order.map((each) => ({ x: x(each.takes), y: y(each.dry) })),
    points.filter(matters).length,
    MARK + 1,
    { width: WIDTH, height: HEIGHT },
  );
  const ticks = against === "cost" ? money.filter((each) => each <= mostTakes) : steps(mostTakes);
  const roomFor = ticks.filter(
    (tick, at) => at === 0 || x(tick) - x(ticks[at - 1] ?? 0) > 24 || at === ticks.length - 1,
  );
  return (
    <section aria-label="Dry time against what it takes" ref={drawing}>
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="font-figure text-[17px] font-semibold">Dry time against</h2>
        <div role="group" aria-label="Against what" className="flex border border-ink">
          {(Object.keys(AGAINST) as Against[]).map((key) => (
            <button
              key={key}
              type="button"
              aria-pressed={against === key}
              onClick={() => setAgainst(key)}
              className={`px-2 py-0.5 text-[13px] ${against === key ? "bg-ink text-paper" : ""}`}
            >
              {AGAINST[key].label}
            </button>
          ))}
        </div>
        <ReadOut name="Remedies" table={() => optionsTable(options)} drawing={drawing} />
      </div>
      <svg
        role="group"
        aria-label={`Dry time left against ${AGAINST[against].label}`}
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="mt-1 w-full"
        fontFamily="Barlow Condensed"
        fontSize="12"
      >
        <g transform={`translate(${ROOM.left} ${ROOM.top})`}>
          {steps(mostDry).map((dry) => (
            <g key={dry}>
              <path d={`M0 ${y(dry)}H${WIDTH}`} stroke="var(--hair)" />
              <text x={-6} y={y(dry) + 4} textAnchor="end" fill="var(--ink-2)">
                {dry}
              </text>
            </g>
          ))}
          {roomFor.map((tick) => (
            <g key={tick}>
              <path d={`M${x(tick)} ${HEIGHT}v4`} stroke="var(--ink)" />
              <text
                x={x(tick)}
                y={HEIGHT + 16}
                textAnchor={x(tick) > WIDTH - 18 ? "end" : "middle"}
                fill="var(--ink-2)"
              >
                {against === "cost" ? `$${tick}` : tick}
              </text>
            </g>
          ))}
          <path d={`M0 ${HEIGHT}H${WIDTH}`} stroke="var(--ink)" />
          <text x={WIDTH} y={HEIGHT + 31} textAnchor="end" fill="var(--ink-2)">
            {AGAINST[against].axis}
          </text>
          <text x={-22} y={HEIGHT + 31} fill="var(--ink-2)">
            dry, s a lap
          </text>
          {base > 0 && (
            <path
              d={`M0 ${y(base)}H${WIDTH}`}
              stroke="var(--ink)"
              strokeDasharray="2 3"
              data-base
            />
          )}
          <path
            d={stair(points, (takes, dry) => `${x(takes)} ${y(dry)}`)}
            fill="none"
            stroke="var(--opt)"
            strokeWidth="1.5"
            strokeDasharray="7 4"
          />
          {order.map((point, at) => (
            <PointMark
              key={point.key}
              point={point}
              at={{ x: x(point.takes), y: y(point.dry) }}
              spot={spots[at] ?? null}
              isChosen={point.key === options.choice.key}
              isPicked={point.key === picked}
              onPick={() => onPick(point.key)}
            />
          ))}
        </g>
      </svg>
      <p className="text-[13px] text-ink-2">
        Filled: nothing that takes less is as dry, by more than starts differ (0.3 s). Dotted: as it
        is; at the upper edge: worse. A ring has no room for its letter: pick it, or its row.
      </p>
    </section>
  );
}
