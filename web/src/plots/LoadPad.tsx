import { memo, useMemo, type ReactElement } from "react";
import type { Schemas } from "../api/client";
import { circleRing } from "../drawing/geometry";
import { hatchPath } from "../drawing/hatch";
import { aroundBox, isInside, overDisc, overRing, placeLabel, type Place } from "./labels";
import { DialFrame, DialWords, LoadDial, Visits } from "./LoadDial";
import { edgePlaces, placeOf, type Dial, type Load } from "./rose";

type Samples = Schemas["SamplesOut"];

const RINGS = [0.5, 1, 1.5, 2, 2.5];

const ringPath = (places: readonly Place[]): string =>
  `M${places.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;

interface Cloud {
  place: Place;
  dry: boolean;
}

/** What does not move with the handle: the covered region, its edge, the rings, the lap's cloud. */
const Ground = memo(function Ground({
  dial,
  edge,
  cloud,
}: {
  dial: Dial;
  edge: Place[];
  cloud: Cloud[];
}): ReactElement {
  const { size, radius } = dial;
  const middle = size / 2;
  return (
    <>
      <defs>
        <clipPath id="rose-rim">
          <circle cx={middle} cy={middle} r={radius} />
        </clipPath>
      </defs>
      <g clipPath="url(#rose-rim)">
        <circle cx={middle} cy={middle} r={radius} fill="var(--air)" />
        <path
          d={hatchPath([circleRing([middle, middle], radius)], 6, -1)}
          stroke="var(--air-ink)"
          strokeWidth="0.9"
        />
        <path
          d={ringPath(edge)}
          fill="var(--oil-wash)"
          stroke="var(--oil-deep)"
          strokeWidth="2.5"
          data-rose-edge
        />
      </g>
      <Visits visits={cloud.map(({ place, dry }) => ({ place, wrong: dry }))} />
      <DialFrame dial={dial} rings={RINGS} />
    </>
  );
});

/** The lap's own loads, thinned, each wet or dry. */
function useCloud(dial: Dial, samples: Samples | null): Cloud[] {
  return useMemo(() => {
    if (!samples) return [];
    const step = Math.max(1, Math.floor(samples.time_s.length / 300));
    return samples.side_g
      .map((sideG, i) => ({
        place: placeOf(dial, { sideG, foreG: samples.fore_g[i] ?? 0 }),
        dry: (samples.cover_mm[i] ?? 0) < 0,
      }))
      .filter((_, i) => i % step === 0);
  }, [samples, dial]);
}

interface Labels {
  dry: Place | null;
  covered: Place | null;
  figure: Place | null;
  one: Place | null;
}

/** Where the pad's words find room: the handle's figure first, clear of the lap's loads. */
function placeLabels(
  { size, radius, rim }: Dial,
  edge: Place[],
  cloud: readonly Cloud[],
  [x, y]: Place,
): Labels {
  const middle: Place = [size / 2, size / 2];
  const spots = overDisc(middle, radius);
  const inRim = (at: Place): boolean => Math.hypot(at[0] - size / 2, at[1] - size / 2) < radius - 4;
  const marks = cloud.map(({ place }) => place);
  const clear = [[x, y] as const];
  const figureBox = { width: 46, height: 20 };
  const near = [26, 34, 46].flatMap((far) =>
    Array.from({ length: 16 }, (_, k): Place => {
      const angle = (k * Math.PI) / 8;
      return [x + far * 1.5 * Math.cos(angle), y + far * Math.sin(angle)];
    }),
  );
  const figure = placeLabel(figureBox, near, inRim, marks, clear);
  const taken = figure ? [...clear, ...aroundBox(figure, figureBox)] : clear;
  const dryBox = { width: 54, height: 16 };
  const dry = placeLabel(dryBox, spots, (p) => inRim(p) && !isInside(edge, p), marks, taken);
  const one = placeLabel(
    { width: 20, height: 14 },
    overRing(middle, radius / rim),
    inRim,
    marks,
    dry ? [...taken, ...aroundBox(dry, dryBox)] : taken,
  );
  const covered = placeLabel(
    { width: 90, height: 16 },
    spots,
    (p) => inRim(p) && isInside(edge, p),
    marks,
    one ? [...taken, one] : taken,
  );
  return { dry, covered, figure, one };
}

/**
 * The cover rose that is the load pad: covered inside the thick edge, bare outside. The handle lies
 * where the oil is thrown; drag it, use the arrow keys, or type the load below it.
 */
export function LoadPad({
  rose,
  samples,
  load,
  steady,
  held,
  rim,
  size,
  onLoad,
}: {
  rose: Schemas["RoseOut"];
  samples: Samples | null;
  load: Load;
  /** The load is the pad's own, not a moment's of the lap. */
  steady: boolean;
  held: readonly (number | null)[] | null;
  rim: number;
  size: number;
  onLoad: (load: Load) => void;
}): ReactElement {
  const dial = useMemo<Dial>(() => ({ size, radius: size / 2 - 20, rim }), [size, rim]);
  const edge = useMemo(
    () => edgePlaces(dial, rose.thrown_deg, rose.dry_from_g),
    [dial, rose.thrown_deg, rose.dry_from_g],
  );
  const cloud = useCloud(dial, samples);
  const handle = placeOf(dial, load);
  const heldRing = held ? edgePlaces(dial, rose.thrown_deg, held) : null;
  const [x, y] = handle;
  const labels = useMemo(() => placeLabels(dial, edge, cloud, [x, y]), [dial, edge, cloud, x, y]);

  return (
    <LoadDial
      label="Load pad"
      dial={dial}
      load={load}
      figure={labels.figure}
      isPad={steady}
      onLoad={onLoad}
      data-load-pad
    >
      <Ground dial={dial} edge={edge} cloud={cloud} />
      {heldRing && (
        <g clipPath="url(#rose-rim)">
          <path
            d={ringPath(heldRing)}
            fill="none"
            stroke="var(--oil-deep)"
            strokeWidth="1.25"
            data-held-edge
          />
        </g>
      )}
      <DialWords at={labels.dry} fill="var(--air-ink)" data="dry">
        runs dry
      </DialWords>
      <DialWords at={labels.covered} fill="var(--oil-deep)" data="covered">
        mouth covered
      </DialWords>
      <DialWords at={labels.one} fill="var(--ink-2)" data="ring">
        1 g
      </DialWords>
    </LoadDial>
  );
}
