import { memo, useMemo, type ReactElement } from "react";
import type { Drain } from "../../api/drains";
import { pathOf } from "../../drawing/geometry";
import { aroundBox, isInside, overDisc, placeLabel, type Place } from "../../plots/labels";
import { DialFrame, DialWords, LoadDial, Visits } from "../../plots/LoadDial";
import { edgePlaces, placeOf, type Dial, type Load } from "../../plots/rose";

/** Where the lap has been, thinned, and whether oil stood over the seals there. */
export interface Visited {
  load: Load;
  backs: boolean;
}

const thrown = (edge: readonly unknown[]): number[] =>
  edge.map((_, at) => (at * 360) / edge.length);

const Ground = memo(function Ground({
  dial,
  edge,
  visited,
}: {
  dial: Dial;
  edge: readonly Place[];
  visited: readonly Visited[];
}): ReactElement {
  const { size, radius, rim } = dial;
  const middle = size / 2;
  return (
    <>
      <defs>
        <clipPath id="drain-rim">
          <circle cx={middle} cy={middle} r={radius} />
        </clipPath>
      </defs>
      <g clipPath="url(#drain-rim)">
        <circle cx={middle} cy={middle} r={radius} fill="var(--bad-wash)" />
        <path
          d={pathOf(edge)}
          fill="var(--good-wash)"
          stroke="var(--good)"
          strokeWidth="2.5"
          data-rose-edge
        />
      </g>
      <text
        x={middle + (radius / rim) * Math.SQRT1_2 + 4}
        y={middle - (radius / rim) * Math.SQRT1_2 - 2}
        fontSize="12"
        fill="var(--ink-2)"
      >
        1 g
      </text>
      <Visits
        visits={visited.map(({ load, backs }) => ({ place: placeOf(dial, load), wrong: backs }))}
      />
      <DialFrame dial={dial} rings={[0.5, 1, 1.5]} />
    </>
  );
});

/** Words over the rose where there is room for them. */
function labels(
  { size, radius }: Dial,
  edge: readonly Place[],
  visited: readonly Place[],
  handle: Place,
): { drains: Place | null; backs: Place | null; figure: Place | null } {
  const middle: Place = [size / 2, size / 2];
  const spots = overDisc(middle, radius);
  const inRim = ([x, y]: Place): boolean => Math.hypot(x - size / 2, y - size / 2) < radius - 4;
  const near = [28, 38, 52].flatMap((far) =>
    Array.from({ length: 16 }, (_, k): Place => {
      const angle = (k * Math.PI) / 8;
      return [handle[0] + far * 1.4 * Math.cos(angle), handle[1] + far * Math.sin(angle)];
    }),
  );
  const figureBox = { width: 50, height: 22 };
  const figure = placeLabel(figureBox, near, inRim, visited, [handle]);
  const taken = figure ? [handle, ...aroundBox(figure, figureBox)] : [handle];
  const box = { width: 56, height: 16 };
  const inside = (p: Place): boolean => isInside(edge, p);
  const backs = placeLabel(box, spots, (p) => inRim(p) && !inside(p), visited, taken);
  const more = backs ? [...taken, ...aroundBox(backs, box)] : taken;
  return {
    figure,
    backs,
    drains: placeLabel(box, spots, (p) => inRim(p) && inside(p), visited, more),
  };
}

/** The drain rose, which is a load pad: green inside drains, outside it backs up. */
export function DrainRose({
  drain,
  visited,
  load,
  isPad,
  size,
  onLoad,
}: {
  drain: Drain;
  visited: readonly Visited[];
  load: Load;
  /** The load is the pad's own, not a moment's of the lap. */
  isPad: boolean;
  size: number;
  onLoad: (load: Load) => void;
}): ReactElement {
  const { edge_g: edgeG, limit_g: rim } = drain.rose;
  const dial = useMemo<Dial>(() => ({ size, radius: size / 2 - 20, rim }), [size, rim]);
  const edge = useMemo(() => edgePlaces(dial, thrown(edgeG), edgeG), [dial, edgeG]);
  const [x, y] = placeOf(dial, load);
  const words = useMemo(
    () =>
      labels(
        dial,
        edge,
        visited.map((each) => placeOf(dial, each.load)),
        [x, y],
      ),
    [dial, edge, visited, x, y],
  );

  return (
    <LoadDial
      label="Load on the drain"
      dial={dial}
      load={load}
      figure={words.figure}
      isPad={isPad}
      onLoad={onLoad}
      data-drain-rose
    >
      <Ground dial={dial} edge={edge} visited={visited} />
      <DialWords at={words.drains} fill="var(--good)">
        drains
      </DialWords>
      <DialWords at={words.backs} fill="var(--bad)">
        backs up
      </DialWords>
    </LoadDial>
  );
}
