import type { ReactElement } from "react";
import { Dimension } from "../../drawing/Dimension";
import type { Point } from "../../drawing/geometry";
import { HALO, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { spare, type Now } from "./elevation";
import { lengthIn } from "./sentence";

const LEAST = 10; // [px] over the sheet's edge that a head is drawn to at most

/**
 * The head that there is, up to the seals, beside the head that is needed, upright as millimetres of
 * standing oil over what the drain falls to.
 */
export function HeadBracket({
  now,
  seal,
  scale,
  x,
  height,
  isNarrow,
}: {
  now: Now;
  /** The seals on the page [px]. */
  seal: Point;
  scale: number;
  /** Of the bracket [px]. */
  x: number;
  height: number;
  isNarrow: boolean;
}): ReactElement {
  const shown = useSettings();
  const { system, units } = shown;
  const left = spare(now);
  const isShort = left < 0;
  const ink = isShort ? "var(--bad)" : "var(--good)";
  const base = Math.min(seal[1] + Math.max(0, now.thereMm) * scale, height - 46);
  const there = base - now.thereMm * scale;
  const needed = Math.max(LEAST, base - now.neededMm * scale);
  const toFlow = now.neededMm - now.pushMm;
  const figure = (mm: number): string => lengthAs(units, system, mm).figure;
  const line = (y: number, from: number, to: number, ink: string, dash?: string): ReactElement => (
    <path
      d={`M${from} ${y}H${to}`}
      stroke={ink}
      strokeWidth="1.25"
      strokeDasharray={dash}
      data-keep-free
    />
  );
  const wide = isNarrow ? 26 : 44;
  return (
    <g data-head={isShort ? "short" : "enough"}>
      {line(base, x - 18, x + wide + 12, "var(--ink-2)")}
      {line(there, seal[0] - 20, x + wide + 12, "var(--ink-2)", "2 3")}
      {line(needed, seal[0] - 20, x + wide + 12, ink, "7 4")}
      <Dimension a={[x, base]} b={[x, there]} offset={0.01} text={figure(now.thereMm)} />
      <Dimension
        a={[x + wide, base]}
        b={[x + wide, needed]}
        offset={0.01}
        text={figure(now.neededMm)}
      />
      <Words
        rank="part"
        {...HALO}
        x={x - 6}
        y={base + 18}
        fontSize="14"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--ink)"
      >
        there is
      </Words>
      <Words
        rank="part"
        {...HALO}
        x={x + wide + 6}
        y={needed - 8}
        fontSize="14"
        fontWeight="600"
        textAnchor="middle"
        fill={ink}
      >
        needed
      </Words>
      <Words
        rank="part"
        {...HALO}
        x={x + wide + 18}
        y={(there + base) / 2 - 6}
        fontSize="14"
        fontWeight="600"
        fill={ink}
      >
        {lengthIn(shown, left)} {isShort ? "short" : "to spare"}
        {!isNarrow && (
          <>
            <tspan x={x + wide + 18} dy="17" fontWeight="500" fill="var(--ink-2)">
              {figure(toFlow)} to flow,
            </tspan>
            <tspan x={x + wide + 18} dy="16" fontWeight="500" fill="var(--ink-2)">
              {figure(now.pushMm)} against gas
            </tspan>
          </>
        )}
      </Words>
      <Words
        rank="name"
        x={seal[0] - 24}
        y={there - 6}
        fontSize="13"
        fontWeight="500"
        textAnchor="end"
        fill="var(--ink-2)"
        mayGo
      >
        seals
      </Words>
    </g>
  );
}
