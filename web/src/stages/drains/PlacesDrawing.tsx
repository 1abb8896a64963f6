import { useRef, type ReactElement } from "react";
import { boxOf, pathOf, type Point } from "../../drawing/geometry";
import type { Drawing } from "../../drawing/views";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { useSize } from "../../parts/size";
import { NOSES } from "./elevation";

/** A place that is being typed: ahead, left and over the rail [mm]; null while it is not a figure. */
export interface TypedPlace {
  words: string;
  at_mm: readonly [number | null, number | null, number | null];
}

const EDGE = 44; // [px] round what is drawn
const NARROW = 600; // [px]
const LEAST_MM = 90; // round the pan, so that its own edge does not fill the sheet

type View = "plan" | "side";

const onPage: Record<View, (ahead: number, other: number) => Point> = {
  plan: (ahead, left) => [-ahead, left],
  side: (ahead, up) => [-ahead, -up],
};

const seen = (view: View, { at_mm: [ahead, left, up] }: TypedPlace): Point | null => {
  const other = view === "plan" ? left : up;
  return ahead === null || other === null ? null : onPage[view](ahead, other);
};

function ringsOf(drawing: Drawing, view: View): Point[][] {
  const rings =
    view === "plan"
      ? drawing.zones.map(({ outline_mm }) => outline_mm)
      : [...drawing.side.inside_mm, ...drawing.side.skirt_mm];
  return rings.map((ring) => ring.map(([one, other]) => onPage[view](one, other)));
}

/** Where places are measured from: an arrow toward the nose, and one to the left, or up. */
function Origin({ at: [u, v], view }: { at: Point; view: View }): ReactElement {
  const other: Point = view === "plan" ? [u, v + 40] : [u, v - 40];
  return (
    <g stroke="var(--ink-2)" fill="var(--ink-2)">
      <circle cx={u} cy={v} r="5" fill="var(--paper)" strokeWidth="1.5" data-keep-free />
      <path
        d={pathOf(
          [
            [u - 5, v],
            [u - 40, v],
          ],
          false,
        )}
        strokeWidth="1.5"
      />
      <path d={`M${u - 44} ${v}l9 -4v8z`} stroke="none" />
      <path d={pathOf([[u, v + (view === "plan" ? 5 : -5)], other], false)} strokeWidth="1.5" />
      <path
        d={`M${other[0]} ${other[1] + (view === "plan" ? 4 : -4)}l-4 ${view === "plan" ? -9 : 9}h8z`}
        stroke="none"
      />
      <Words
        rank="dimension"
        x={u + 8}
        y={view === "plan" ? other[1] + 4 : other[1]}
        fontSize="13"
        {...HALO}
      >
        {view === "plan" ? "left" : "over the rail"}
      </Words>
    </g>
  );
}

/** The end that the crank's nose is at. */
function Nose({ at: [u, v], words }: { at: Point; words: string | null }): ReactElement {
  return (
    <g>
      <path d={`M${u - 18} ${v}l12 -6v12z`} fill="var(--ink)" />
      <Words rank="title" x={u - 24} y={v + 4} fontSize="13" textAnchor="end" fill="var(--ink)">
        {words}
      </Words>
    </g>
  );
}

/** One view of the pan with the places that its two figures are known of. */
function Seen({
  drawing,
  view,
  places,
  place,
}: {
  drawing: Drawing;
  view: View;
  places: readonly TypedPlace[];
  place: (point: Point) => Point;
}): ReactElement {
  const found = places.flatMap((each) => {
    const at = seen(view, each);
    return at ? [{ words: each.words, at: place(at) }] : [];
  });
  return (
    <g data-view={view}>
      {ringsOf(drawing, view).map((ring, index) => (
        <path
          key={index}
          d={pathOf(ring.map(place))}
          fill="var(--panel)"
          stroke="var(--ink)"
          strokeWidth="1.25"
        />
      ))}
      <Origin at={place([0, 0])} view={view} />
      {found.length > 1 && (
        <path
          d={pathOf(
            found.map(({ at }) => at),
            false,
          )}
          fill="none"
          stroke="var(--opt)"
          strokeWidth="2"
          strokeDasharray="7 4"
        />
      )}
      {found.map(({ words, at: [u, v] }) => (
        <g key={words} data-typed={words}>
          <circle cx={u} cy={v} r="6" fill="var(--ink)" data-keep-free />
          <Words
            rank="part"
            anchor={[u, v]}
            x={u}
            y={v - 12}
            fontSize="14"
            fontWeight="600"
            textAnchor="middle"
            fill="var(--ink)"
            {...HALO}
          >
            {words}
          </Words>
        </g>
      ))}
    </g>
  );
}

/** The pan from above and from its left, with a drain's places as they are typed. */
export function PlacesDrawing({
  drawing,
  places,
}: {
  drawing: Drawing;
  places: readonly TypedPlace[];
}): ReactElement {
  const [box, { width, height }] = useSize();
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const views = (["plan", "side"] as const).map((view) => {
    const typed = places.map((each) => seen(view, each)).filter((each) => each !== null);
    const round = boxOf([...ringsOf(drawing, view).flat(), ...typed, [0, 0]]);
    return { view, round };
  });
  const left = Math.min(...views.map(({ round }) => round.left)) - LEAST_MM;
  const right = Math.max(...views.map(({ round }) => round.right)) + LEAST_MM;
  const tall = views.reduce((sum, { round }) => sum + round.bottom - round.top + LEAST_MM, 0);
  const wide = (width - 2 * EDGE) / (right - left);
  // on a phone, whose page is longer than its screen, as high as its width asks for
  const high = width < NARROW ? Math.max(320, wide * tall + 4 * EDGE) : Math.max(height, 320);
  const scale = Math.min(wide, (high - 4 * EDGE) / tall);
  const begin = (width - (right - left) * scale) / 2;
  let top = EDGE;
  const placed = views.map(({ view, round }) => {
    const down = top + (LEAST_MM / 2 - round.top) * scale;
    const title = down + round.bottom * scale + 30;
    top = title + EDGE;
    return {
      view,
      title,
      place: ([u, v]: Point): Point => [begin + (u - left) * scale, down + v * scale],
    };
  });
  return (
    <div ref={box} className="min-h-[320px] flex-1">
      {width > 0 && scale > 0 && (
        <svg
          ref={svg}
          width={width}
          height={high}
          role="img"
          aria-label="The pan from above and from its left, with the places as they are typed"
          className="block font-figure"
        >
          {placed.map(({ view, title, place }) => (
            <g key={view}>
              <Seen drawing={drawing} view={view} places={places} place={place} />
              <Nose at={place([left + LEAST_MM, 0])} words={NOSES[drawing.nose_points].side} />
              <Words
                rank="title"
                x={begin}
                y={title}
                fontSize="15"
                fontWeight="600"
                fill="var(--ink)"
              >
                {view === "plan" ? "From above" : "From the engine's left"}
              </Words>
            </g>
          ))}
        </svg>
      )}
    </div>
  );
}
