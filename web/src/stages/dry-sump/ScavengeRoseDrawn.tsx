import type { ReactElement } from "react";
import { pathOf } from "../../drawing/geometry";
import { useSay } from "../../parts/InUnits";
import { DialFrame } from "../../plots/LoadDial";
import type { Dial } from "../../plots/rose";
import { capacityPlaces, roseSentence, type ScavengeRose } from "./lost";

const SIZE = 260;

/** What the stages that have oil sweep, of what comes down, by where a steady load throws it. */
export function ScavengeRoseDrawn({ rose }: { rose: ScavengeRose }): ReactElement {
  const rim = Math.max(2, Math.ceil(Math.max(...rose.capacity)));
  const dial: Dial = { size: SIZE, radius: SIZE / 2 - 20, rim };
  const one = dial.radius / rim;
  const said = useSay()(roseSentence(rose));
  return (
    <figure className="min-w-0">
      <svg
        width={SIZE}
        height={SIZE}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="img"
        aria-label={said}
        data-scavenge-rose
      >
        <circle cx={SIZE / 2} cy={SIZE / 2} r={dial.radius} fill="var(--panel)" />
        <path
          d={pathOf(capacityPlaces(dial, rose))}
          fill="var(--good-wash)"
          stroke="var(--good)"
          strokeWidth="2.5"
        />
        <circle cx={SIZE / 2} cy={SIZE / 2} r={one} fill="var(--bad-wash)" stroke="var(--bad)" />
        <text x={SIZE / 2} y={SIZE / 2 + 4} textAnchor="middle" fontSize="12" fill="var(--bad)">
          too little
        </text>
        <DialFrame dial={dial} rings={Array.from({ length: rim - 1 }, (_, k) => k + 1).slice(1)} />
      </svg>
      <figcaption className="max-w-[34ch] text-[13px]">{said}</figcaption>
    </figure>
  );
}
