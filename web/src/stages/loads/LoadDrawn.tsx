import { useRef, type ReactElement } from "react";
import type { Schemas } from "../../api/client";
import { useClearWords, Words } from "../../drawing/Words";
import { useSize } from "../../parts/size";
import { tracePath } from "../../plots/traces";

type Trace = Schemas["ManoeuvreTraceOut"];

const HEIGHT = 190;
const [LEFT, RIGHT, TOP, BOTTOM] = [52, 12, 16, 26];
const RIM = 78; // [px]

/** The next half of g above all of it, and never under one. */
const rimOf = (trace: Trace): number =>
  Math.max(
    1,
    Math.ceil(
      2 *
        Math.max(
          ...trace.time_s.map((_, k) => Math.hypot(trace.side_g[k] ?? 0, trace.fore_g[k] ?? 0)),
        ),
    ) / 2,
  );

function Dial({ trace, rim }: { trace: Trace; rim: number }): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const [x, y] = [120, HEIGHT / 2];
  // oil goes the other way: a left turn throws it right, braking forward, which is up
  const thrown = trace.side_g.map((side, k): string => {
    const fore = trace.fore_g[k] ?? 0;
    return `${(x + (side / rim) * RIM).toFixed(1)} ${(y + (fore / rim) * RIM).toFixed(1)}`;
  });
  const words = { fontSize: 12, fill: "var(--ink-2)" };
  return (
    <svg
      ref={svg}
      width={240}
      height={HEIGHT}
      role="img"
      aria-label="Where the load throws the oil"
      data-thrown
      className="shrink-0"
    >
      <circle cx={x} cy={y} r={RIM} fill="var(--panel)" stroke="var(--ink)" strokeWidth="1.75" />
      <circle cx={x} cy={y} r={RIM / 2} fill="none" stroke="var(--hair)" />
      <path d={`M${x - RIM} ${y}h${2 * RIM}M${x} ${y - RIM}v${2 * RIM}`} stroke="var(--hair)" />
      <path
        d={`M${thrown.join("L")}`}
        fill="none"
        stroke="var(--oil-deep)"
        strokeWidth="2.5"
        strokeLinejoin="round"
      />
      <Words rank="part" x={x + 4} y={y - RIM + 24} {...words}>
        forward
      </Words>
      <Words rank="part" x={x + 4} y={y + RIM - 6} {...words}>
        back
      </Words>
      <Words rank="part" x={x - RIM - 6} y={y + 4} textAnchor="end" {...words}>
        left
      </Words>
      <Words rank="part" x={x + RIM + 6} y={y + 4} {...words}>
        right
      </Words>
      <Words rank="name" mayGo x={x + RIM * 0.72} y={y - RIM * 0.74} {...words}>
        {rim} g
      </Words>
    </svg>
  );
}

/** A load while it is typed: g over time as it will be judged, and where it throws the oil. */
export function LoadDrawn({ trace }: { trace: Trace }): ReactElement {
  const [box, { width }] = useSize();
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const rim = rimOf(trace);
  const last = trace.time_s.at(-1) ?? 1;
  const wide = Math.max(width - LEFT - RIGHT, 1);
  const x = (time: number): number => LEFT + (time / last) * wide;
  const middle = (TOP + HEIGHT - BOTTOM) / 2;
  const y = (g: number): number => middle - (g / rim) * (middle - TOP);
  const step = [1, 2, 5, 10, 20, 60, 120, 300].find((each) => last / each <= wide / 60) ?? 600;
  const ticks = Array.from({ length: Math.floor(last / step) + 1 }, (_, k) => k * step);
  return (
    <figure className="mt-2 flex flex-wrap items-start gap-x-6" data-load-drawn>
      <div ref={box} className="min-w-[280px] flex-1">
        <figcaption className="font-figure text-[16px] font-semibold">
          Loads over {last.toFixed(1)} s
        </figcaption>
        {width > 0 && (
          <svg
            ref={svg}
            width={width}
            height={HEIGHT}
            role="img"
            aria-label="Side and fore g of the load over time"
          >
            {[-rim, 0, rim].map((g) => (
              <g key={g}>
                <path d={`M${LEFT} ${y(g)}H${width - RIGHT}`} stroke="var(--hair)" />
                <text x={LEFT - 8} y={y(g) + 4} fontSize="12" textAnchor="end" fill="var(--ink-2)">
                  {g === 0 ? "0 g" : g > 0 ? `+${g}` : `−${-g}`}
                </text>
              </g>
            ))}
            <path
              d={tracePath(trace.time_s, trace.fore_g, x, y)}
              fill="none"
              stroke="var(--ink-2)"
              strokeDasharray="1.5 2.5"
              strokeWidth="1.5"
            />
            <path
              d={tracePath(trace.time_s, trace.side_g, x, y)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.75"
            />
            {ticks.map((at) => (
              <text
                key={at}
                x={x(at)}
                y={HEIGHT - 8}
                fontSize="12"
                textAnchor="middle"
                fill="var(--ink-2)"
              >
                {at === 0 ? "0 s" : at}
              </text>
            ))}
            <Words rank="part" x={LEFT + 6} y={TOP + 12} fontSize="12" fill="var(--ink)">
              solid: side g, up is a left turn
            </Words>
            <Words
              rank="part"
              x={LEFT + 6}
              y={HEIGHT - BOTTOM - 4}
              fontSize="12"
              fill="var(--ink-2)"
            >
              dotted: fore g, down is braking
            </Words>
          </svg>
        )}
      </div>
      <div>
        <p className="font-figure text-[16px] font-semibold">Where it throws the oil</p>
        <Dial trace={trace} rim={rim} />
      </div>
    </figure>
  );
}
