import { useRef, type ReactElement } from "react";
import type { FlatPart } from "../../../api/making";
import { HALO, useClearWords, Words } from "../../../drawing/Words";
import { useSettings } from "../../../parts/settings";
import { lengthAs } from "../../../parts/units";
import { fitted, ringPath, type Fit } from "./pattern";

function Shape({ part, fit }: { part: FlatPart; fit: Fit }): ReactElement {
  return (
    <>
      <path
        d={[part.outline_mm, ...part.holes_mm].map((ring) => ringPath(fit, ring)).join("")}
        fillRule="evenodd"
        fill="var(--metal-2)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {part.circles.map(([x, y, d], at) => {
        const [cx, cy] = fit.at([x, y]);
        return (
          <circle
            key={at}
            cx={cx}
            cy={cy}
            r={Math.max(1, (d / 2) * fit.scale)}
            fill="var(--paper)"
            stroke="var(--ink)"
          />
        );
      })}
      {part.bends.map((bend, at) => {
        const [[x1, y1], [x2, y2]] = [fit.at(bend.from_mm), fit.at(bend.to_mm)];
        return (
          <path
            key={at}
            d={`M${x1} ${y1}L${x2} ${y2}`}
            stroke="var(--ink)"
            strokeDasharray="10 3 2 3"
            data-bend
          />
        );
      })}
      {part.folds_mm.map(([from, to], at) => {
        const [[x1, y1], [x2, y2]] = [fit.at(from), fit.at(to)];
        return (
          <path key={at} d={`M${x1} ${y1}L${x2} ${y2}`} stroke="var(--ink)" strokeDasharray="3 3" />
        );
      })}
    </>
  );
}

/** A part small, to be picked. */
export function SmallPattern({ part, size }: { part: FlatPart; size: number }): ReactElement {
  const fit = fitted(part, size, size * 0.7, 5);
  return (
    <svg width={fit.width} height={fit.height} aria-hidden="true" className="block">
      <Shape part={part} fit={fit} />
    </svg>
  );
}

/** One part to scale with its sizes, its bends, what each edge is welded to and the nose. */
export function Pattern({
  part,
  width,
  height,
}: {
  part: FlatPart;
  width: number;
  height: number;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  const { system, units } = useSettings();
  useClearWords(svg);
  const fit = fitted(part, width, height, 46);
  const wide = lengthAs(units, system, part.width_mm);
  const tall = lengthAs(units, system, part.height_mm);
  const [right, bottom] = [fit.width - 46, fit.height - 46];
  const [nx, ny] = part.nose;
  const hasNose = Math.hypot(nx, ny) > 0.5;
  const tip: [number, number] = [fit.width - 22 + 14 * nx, 26 - 14 * ny];
  return (
    <svg
      ref={svg}
      width={fit.width}
      height={fit.height}
      role="img"
      aria-label={`Pattern of ${part.name}`}
      className="block"
      fill="var(--ink)"
      data-pattern={part.key}
    >
      <Shape part={part} fit={fit} />
      <path
        d={`M46 ${bottom + 16}H${right}M46 ${bottom + 11}v10M${right} ${bottom + 11}v10M${right + 16} 46V${bottom}M${right + 11} 46h10M${right + 11} ${bottom}h10`}
        stroke="var(--ink-2)"
        fill="none"
      />
      <Words
        rank="dimension"
        x={(46 + right) / 2}
        y={bottom + 33}
        textAnchor="middle"
        fontSize="14"
        fontWeight="600"
      >
        {wide.figure} {wide.unit}
      </Words>
      <Words
        rank="dimension"
        transform={`translate(${right + 32} ${(46 + bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
        fontSize="14"
        fontWeight="600"
      >
        {tall.figure} {tall.unit}
      </Words>
      {part.bends.map((bend, at) => {
        const [a, b] = [fit.at(bend.from_mm), fit.at(bend.to_mm)];
        return (
          <Words
            key={at}
            rank="gap"
            x={(a[0] + b[0]) / 2}
            y={(a[1] + b[1]) / 2}
            textAnchor="middle"
            fontSize="12"
            mayGo
            {...HALO}
          >
            {bend.bend_deg.toFixed(1)}° {bend.up ? "up" : "down"}
          </Words>
        );
      })}
      {part.notes.map((note, at) => {
        const [x, y] = fit.at(note.at_mm);
        return (
          <Words
            key={at}
            rank="part"
            x={x}
            y={y + 4}
            textAnchor="middle"
            fontSize={/^\d+$/.test(note.words) ? "16" : "12"}
            fontWeight={/^\d+$/.test(note.words) ? "700" : "400"}
            mayGo
            {...HALO}
          >
            {note.words}
          </Words>
        );
      })}
      {hasNose && (
        <>
          <path
            d={`M${fit.width - 22 - 14 * nx} ${26 + 14 * ny}L${tip[0]} ${tip[1]}`}
            stroke="var(--ink)"
            strokeWidth="2"
          />
          <circle cx={tip[0]} cy={tip[1]} r="3.5" />
          <Words rank="title" x={fit.width - 36} y={12} textAnchor="end" fontSize="12">
            nose
          </Words>
        </>
      )}
    </svg>
  );
}
