import { useMemo, type ReactElement } from "react";
import type { Schemas } from "../api/client";

type Rose = Schemas["RoseOut"];
type Samples = Schemas["SamplesOut"];

const RINGS = [0.5, 1, 1.5];

/**
 * For each direction the steady g at which the mouth goes dry: covered inside, bare outside. The
 * page shows where the oil is thrown: braking up, a left turn to the right.
 */
export function CoverRose({
  rose,
  samples,
  now,
  size,
}: {
  rose: Rose;
  samples: Samples | null;
  now: { sideG: number; foreG: number } | null;
  size: number;
}): ReactElement {
  const limit = 1.6;
  const radius = size / 2 - 22;
  const place = (sideG: number, foreG: number): [number, number] => [
    size / 2 + (sideG / limit) * radius,
    size / 2 - (-foreG / limit) * radius,
  ];
  const edge = rose.thrown_deg
    .map((thrown, index) => {
      const g = Math.min(rose.dry_from_g[index] ?? limit * 2, limit * 2);
      const angle = (thrown * Math.PI) / 180;
      return place(-g * Math.sin(angle), -g * Math.cos(angle));
    })
    .map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`)
    .join("L");
  const dots = useMemo(() => {
    if (!samples) return [];
    const step = Math.max(1, Math.floor(samples.time_s.length / 260));
    return samples.side_g
      .map((sideG, i) => ({
        sideG,
        foreG: samples.fore_g[i] ?? 0,
        dry: (samples.cover_mm[i] ?? 0) < 0,
      }))
      .filter((_, i) => i % step === 0);
  }, [samples]);
  return (
    <svg
      width={size}
      height={size}
      role="img"
      aria-label="Cover rose: steady load at which the mouth goes dry, by direction"
    >
      <defs>
        <clipPath id="rose-rim">
          <circle cx={size / 2} cy={size / 2} r={radius} />
        </clipPath>
      </defs>
      <g clipPath="url(#rose-rim)">
        <circle cx={size / 2} cy={size / 2} r={radius} fill="url(#hatch-air)" />
        <path
          d={`M${edge}Z`}
          fill="var(--oil-wash)"
          stroke="var(--oil-deep)"
          strokeWidth="2.5"
          data-rose-edge
        />
      </g>
      {RINGS.map((g) => (
        <circle
          key={g}
          cx={size / 2}
          cy={size / 2}
          r={(g / limit) * radius}
          fill="none"
          stroke="var(--ink-2)"
          strokeOpacity="0.35"
        />
      ))}
      {dots.map(({ sideG, foreG, dry }, index) => {
        const [x, y] = place(sideG, foreG);
        return dry ? (
          <path key={index} d={`M${x} ${y - 3.2}l3.2 5.6h-6.4z`} fill="var(--bad)" />
        ) : (
          <circle key={index} cx={x} cy={y} r="1.5" fill="var(--ink)" />
        );
      })}
      <circle
        cx={size / 2}
        cy={size / 2}
        r={radius}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.75"
      />
      <g fontSize="13" fontWeight="500" fill="var(--ink)" textAnchor="middle">
        <text x={size / 2} y={14}>
          braking: oil forward
        </text>
        <text x={size / 2} y={size - 6}>
          driving: oil back
        </text>
        <text transform={`translate(13 ${size / 2}) rotate(-90)`}>right turn: oil left</text>
        <text transform={`translate(${size - 6} ${size / 2}) rotate(-90)`}>
          left turn: oil right
        </text>
        <text x={size / 2 + 4} y={size / 2 + radius / limit - 3} fontSize="12" fill="var(--ink-2)">
          1.0 g
        </text>
      </g>
      {now && (
        <circle
          cx={place(now.sideG, now.foreG)[0]}
          cy={place(now.sideG, now.foreG)[1]}
          r="7"
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth="3"
        />
      )}
    </svg>
  );
}
