import { useMemo, type ReactElement } from "react";
import { pathOf, type Point } from "./geometry";
import { hatchPath } from "./hatch";
import { bandRing, rounded, shares } from "./glass";

/** A pipe on the page: its middle line, and on which side of it air goes as one walks along. */
export interface Glass {
  key: string;
  line: readonly Point[];
  width: number;
  airOn: "left" | "right";
}

/** A glass pipe with oil and air by their true shares of its width. */
export function GlassPipe({ pipe, gas }: { pipe: Glass; gas: number }): ReactElement {
  const line = useMemo(() => rounded(pipe.line, 14), [pipe.line]);
  const wall = useMemo(() => bandRing(line, pipe.width / 2, -pipe.width / 2), [line, pipe.width]);
  const { oil, air } = shares(line, pipe.width - 2, gas, pipe.airOn);
  return (
    <g data-pipe={pipe.key} data-gas={gas.toFixed(2)}>
      {oil && <path d={pathOf(oil)} fill="var(--oil)" />}
      {air && <path d={pathOf(air)} fill="var(--air)" />}
      {air && <path d={hatchPath([air], 6, -1)} stroke="var(--air-ink)" strokeWidth="0.8" />}
      <path d={pathOf(wall)} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
    </g>
  );
}
