import type { ReactElement } from "react";
import type { Chain, Line, LineEnd } from "../../api/lines";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { rowsOf } from "./chainWords";
import { isBare } from "./sentence";

type Fitting = Chain["fittings"][number];

const COLUMN = 102; // [px] of a part with its words
const HOSE = 100; // six columns and it fit a screen of 1280
const TOP = 70; // [px] over the axis for words
const AXIS = 112;
const HEIGHT = 146;
const PX = 0.9; // [px/mm] of fittings

/** Threads as marks across a stub. */
function Stub({
  x,
  to,
  r,
  family,
}: {
  x: number;
  to: number;
  r: number;
  family: string;
}): ReactElement {
  const [from, end] = [Math.min(x, to), Math.max(x, to)];
  const outward = to > x ? 1 : -1;
  const tip = family === "flare" ? r * 0.45 : family === "taper" ? r * 0.82 : r;
  const body = `M${x} ${AXIS - r}L${to} ${AXIS - tip}V${AXIS + tip}L${x} ${AXIS + r}Z`;
  const marks = Math.max(2, Math.floor((end - from) / 4));
  return (
    <>
      <path d={body} fill="var(--metal-2)" stroke="var(--ink)" />
      {Array.from({ length: marks }, (_, n) => {
        const at = x + outward * (3 + n * 4);
        return (
          <path
            key={n}
            d={`M${at} ${AXIS - r * 0.8}l${outward * 2} ${r * 1.6}`}
            stroke="var(--metal-ink)"
            strokeWidth="0.9"
          />
        );
      })}
      {family === "o_ring" && (
        <path
          d={`M${x + outward * 2.5} ${AXIS - r - 1}v${2 * r + 2}`}
          stroke="var(--ink)"
          strokeWidth="3"
        />
      )}
    </>
  );
}

function Nut({ x, width, r }: { x: number; width: number; r: number }): ReactElement {
  return (
    <>
      <rect
        x={x - width / 2}
        y={AXIS - r}
        width={width}
        height={2 * r}
        fill="var(--metal)"
        stroke="var(--ink)"
      />
      <path
        d={`M${x - width / 2} ${AXIS - r / 2.4}h${width}M${x - width / 2} ${AXIS + r / 2.4}h${width}`}
        stroke="var(--ink)"
        strokeWidth="0.8"
      />
    </>
  );
}

function Words3({ x, lines }: { x: number; lines: readonly string[] }): ReactElement {
  return (
    <>
      {lines
        .flatMap((words, at) => rowsOf(words).map((row) => ({ row, isThread: at === 1 })))
        .filter(({ row }) => row !== "")
        .map(({ row, isThread }, at) => (
          <text
            key={at}
            x={x}
            y={14 + at * 14}
            textAnchor="middle"
            fontSize="12"
            fontWeight={isThread ? 400 : 600}
            fill={isThread ? "var(--ink-2)" : "var(--ink)"}
          >
            {row}
          </text>
        ))}
    </>
  );
}

function Port({ x, end, flip }: { x: number; end: LineEnd; flip: boolean }): ReactElement {
  const male = end.thread.endsWith("male") && !end.thread.endsWith("female");
  const face = flip ? x - 18 : x + 18;
  return (
    <g data-port={end.component}>
      <Words3
        x={x}
        lines={[
          end.name,
          end.thread.replace(", ", " "),
          end.is_usual ? "thread guessed" : "as told",
        ]}
      />
      <rect
        x={x - 18}
        y={AXIS - 28}
        width="36"
        height="56"
        fill="url(#lines-cut)"
        stroke="var(--ink)"
      />
      {male ? (
        <Stub x={face} to={face + (flip ? -16 : 16)} r={9} family={end.family} />
      ) : (
        <path
          d={
            flip
              ? `M${face} ${AXIS - 9}h20l4 3v12l-4 3h-20z`
              : `M${face} ${AXIS - 9}h-20l-4 3v12l4 3h20z`
          }
          fill="var(--panel)"
          stroke="var(--ink)"
        />
      )}
    </g>
  );
}

function Part({ x, part, flip }: { x: number; part: Fitting; flip: boolean }): ReactElement {
  const half = Math.max(14, part.height_mm * PX) / 2;
  const [entry, shows] = [part.entry_family, part.shows_family];
  const isMale = (words: string): boolean => words.endsWith(", male");
  const inner = flip ? 1 : -1; // toward the port
  const stub = 14;
  return (
    <g data-fitting={part.key}>
      <Words3
        x={x}
        lines={[
          part.angle_deg ? `elbow ${part.angle_deg}°` : (part.words.split(",")[0] ?? ""),
          part.words.split(", ").slice(1).join(", "),
          part.spanner,
        ]}
      />
      {isMale(part.entry) && (
        <Stub x={x + inner * half} to={x + inner * (half + stub)} r={10} family={entry} />
      )}
      {isMale(part.shows) && (
        <Stub x={x - inner * half} to={x - inner * (half + stub)} r={9} family={shows} />
      )}
      <Nut x={x} width={2 * half} r={part.angle_deg ? 15 : 13} />
      {part.angle_deg > 0 && (
        <path d={`M${x} ${AXIS - 15}v-10`} stroke="var(--ink)" strokeWidth="3" />
      )}
    </g>
  );
}

function LineEndDrawn({
  x,
  end,
  line,
  flip,
}: {
  x: number;
  end: LineEnd;
  line: Line;
  flip: boolean;
}): ReactElement {
  const hose = line.kind === "hose";
  const name = isBare(line)
    ? "hose clip"
    : hose
      ? `hose end ${end.hose_end_deg ? `${end.hose_end_deg}°` : "straight"}`
      : "nut and sleeve";
  const way = flip ? -1 : 1;
  return (
    <g data-line-end={flip ? "end" : "start"}>
      <Words3 x={x} lines={[name, line.dash ? `size ${line.dash}` : "", end.spanner]} />
      <Nut x={x - way * 10} width={22} r={15} />
      <rect
        x={way > 0 ? x + 1 : x - 27}
        y={AXIS - 11}
        width="26"
        height="22"
        fill="var(--metal-3)"
        stroke="var(--ink)"
      />
    </g>
  );
}

/** A line drawn end to end as it screws together, fittings to one scale, its hose broken. */
export function ChainDrawing({ line }: { line: Line }): ReactElement {
  const { system, units } = useSettings();
  const [first, last] = line.ends;
  const before = first.chain?.fittings ?? [];
  const after = [...(last.chain?.fittings ?? [])].reverse();
  const count = before.length + after.length + 4;
  const width = count * COLUMN + HOSE;
  const at = (column: number): number => (column + 0.5) * COLUMN;
  const startEnd = at(before.length + 1);
  const hoseFrom = startEnd + 27;
  const hoseTo = startEnd + COLUMN / 2 + HOSE + COLUMN / 2 - 27;
  const right = (column: number): number => width - (column + 0.5) * COLUMN;
  const length = line.kind === "hose" ? line.cut_mm : (line.sheet?.cut_mm ?? line.length_mm);
  const shown = length === null ? null : lengthAs(units, system, length);
  const middle = (hoseFrom + hoseTo) / 2;
  const fill = isBare(line) ? "var(--panel)" : "var(--oil)";
  const stuff = line.kind === "hose" ? "hose" : "tube";
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`Line ${line.number} as it screws together`}
      className="block"
      data-chain={line.number}
    >
      <defs>
        <pattern
          id="lines-cut"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--metal-2)" />
          <path d="M0 0V6" stroke="var(--metal-ink)" strokeWidth="1" />
        </pattern>
      </defs>
      <path
        d={`M8 ${AXIS}H${width - 8}`}
        stroke="var(--ink-2)"
        strokeWidth="0.8"
        strokeDasharray="14 3 3 3"
      />
      <path
        d={`M${hoseFrom} ${AXIS - 10}H${middle - 8}l6 10l-6 10H${hoseFrom}z`}
        fill={fill}
        stroke="var(--ink)"
      />
      <path
        d={`M${hoseTo} ${AXIS - 10}H${middle + 4}l6 10l-6 10H${hoseTo}z`}
        fill={fill}
        stroke="var(--ink)"
      />
      <text
        x={middle}
        y={TOP - 14}
        textAnchor="middle"
        fontSize="13"
        fontWeight="600"
        fill="var(--ink)"
      >
        {shown ? `cut ${shown.figure} ${shown.unit} of ${stuff}` : "no length yet"}
      </text>
      <text x={middle} y={TOP + 2} textAnchor="middle" fontSize="12.5" fill="var(--ink-2)">
        {line.sleeve ? "heat sleeve" : ""}
        {line.clocking_deg === null ? "" : ` ends turned ${line.clocking_deg}°`}
      </text>
      <Port x={at(0)} end={first} flip={false} />
      {before.map((part, n) => (
        <Part key={part.key} x={at(n + 1)} part={part} flip={false} />
      ))}
      <LineEndDrawn x={startEnd} end={first} line={line} flip={false} />
      <LineEndDrawn x={right(after.length + 1)} end={last} line={line} flip={true} />
      {after.map((part, n) => (
        <Part key={part.key} x={right(after.length - n)} part={part} flip={true} />
      ))}
      <Port x={right(0)} end={last} flip={true} />
    </svg>
  );
}
