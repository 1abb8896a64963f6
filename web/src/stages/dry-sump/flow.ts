import type { Dry, DryOverLap, Sized } from "../../api/dry";
import type { Point, Ring } from "../../drawing/geometry";
import { nearestIndex } from "../../plots/traces";

/** The part of a ring on the side of a line where `nx x + ny y >= from`. */
export function within(ring: Ring, nx: number, ny: number, from: number): Ring {
  const side = ([x, y]: Point): number => nx * x + ny * y - from;
  const found: Point[] = [];
  ring.forEach((here, at) => {
    const next = ring[(at + 1) % ring.length] ?? here;
    const [one, other] = [side(here), side(next)];
    if (one >= 0) found.push(here);
    if (one < 0 !== other < 0) {
      const share = one / (one - other);
      found.push([here[0] + share * (next[0] - here[0]), here[1] + share * (next[1] - here[1])]);
    }
  });
  return found;
}

const areaOf = (ring: Ring): number =>
  Math.abs(
    ring.reduce((sum, [x, y], at) => {
      const [nextX, nextY] = ring[(at + 1) % ring.length] ?? [x, y];
      return sum + x * nextY - nextX * y;
    }, 0) / 2,
  );

/**
 * What of an upright box is below a surface that leans: `share` of it is full, and the surface
 * rises by `slope` across it. In the box's own units, up is minus y.
 */
export function filled(width: number, height: number, share: number, slope: number): Ring {
  const box: Ring = [
    [0, 0],
    [width, 0],
    [width, -height],
    [0, -height],
  ];
  const [nx, ny] = [slope, 1];
  let [low, high] = [-height - Math.abs(slope) * width, Math.abs(slope) * width];
  const whole = width * height;
  for (let turn = 0; turn < 40; turn++) {
    const middle = (low + high) / 2;
    if (areaOf(within(box, nx, ny, middle)) > share * whole) low = middle;
    else high = middle;
  }
  return within(box, nx, ny, (low + high) / 2);
}

/** A dry sump at one moment. */
export interface Moment {
  time: number;
  panL: number;
  tankL: number;
  coverMm: number;
  /** Of oil in what each stage draws. */
  shares: number[];
  /** What each sweeps [L/min]. */
  flows: number[];
  /** Of gas where all that the stages bring has come together. */
  joined: number;
  /** Of gas in the cooler; null: there is none. */
  inCooler: number | null;
  /** Of gas in what comes into the tank. */
  intoTank: number;
  /** Oil on its way from stages to tank. */
  comingL: number;
}

export function momentAt(over: DryOverLap, time: number): Moment {
  const { traces } = over;
  const at = nearestIndex(traces.time_s, time + (traces.time_s[0] ?? 0));
  return {
    time,
    panL: traces.pan_l[at] ?? 0,
    tankL: traces.tank_l[at] ?? 0,
    coverMm: traces.cover_mm[at] ?? 0,
    shares: traces.shares.map((each) => each[at] ?? 0),
    flows: traces.flows_l_min.map((each) => each[at] ?? 0),
    joined: traces.joined[at] ?? 0,
    inCooler: traces.in_cooler[at] ?? null,
    intoTank: traces.into_tank[at] ?? 0,
    comingL: traces.coming_back_l[at] ?? 0,
  };
}

const AIR = 0.05; // of oil, under which a stage is said to draw air

export const isAir = (share: number): boolean => share < AIR;

/** A share of oil as the stage has it, in a word. */
export const oilWord = (share: number): string =>
  isAir(share) ? "air only" : `${Math.round(100 * share)} %`;

/** How fast the pump turns [1/min], by what its first stage sweeps. */
export function pumpRpm(dry: Dry, { flows }: Moment): number {
  const [first] = dry.stages;
  return first && first.displacement_cm3 > 0 ? ((flows[0] ?? 0) * 1e3) / first.displacement_cm3 : 0;
}

const WORDS = ["no stage", "one stage", "two stages", "three stages", "four stages", "five stages"];

/** What the stages do at a moment, in a sentence. */
export function stagesSentence(dry: Dry, moment: Moment): string {
  const names = (isWanted: (share: number) => boolean): string[] =>
    dry.stages.filter((_, at) => isWanted(moment.shares[at] ?? 0)).map(({ name }) => name);
  const oil = names((share) => !isAir(share));
  const air = names(isAir);
  if (oil.length === 0)
    return `all stages draw air, ${moment.panL.toFixed(1)} L lie away from the mouths.`;
  if (air.length === 0) return "every stage has oil.";
  const [has, have] = [oil.length === 1 ? "has" : "have", air.length === 1 ? "draws" : "draw"];
  return `the ${oil.join(" and the ")} ${has} oil, the ${air.join(" and the ")} ${have} air.`;
}

/** What a stage is worth over the lap: which one could be left out, if any. */
export function worthSentence(dry: Dry, over: DryOverLap): string {
  if (over.corners.length === 0) return "";
  const most = dry.stages.map((_, at) =>
    Math.max(...over.corners.map(({ brings }) => brings[at] ?? 0)),
  );
  const least = Math.min(...most);
  const at = most.indexOf(least);
  const name = dry.stages[at]?.name ?? "";
  if (least < 0.1)
    return `The ${name} brings at most ${Math.round(100 * least)} % of the oil in any corner of this lap: it could go where oil lies.`;
  return `Each of ${WORDS[dry.stages.length] ?? `${dry.stages.length} stages`} carries at least ${Math.round(100 * least)} % of the oil in some corner: none can be left out.`;
}

/** The worst size first: what is bad, then what is a caution. */
export function worstSize(dry: Dry): Sized | null {
  const worst = (state: Sized["state"]): Sized | undefined =>
    dry.sizes.find((each) => each.state === state);
  return worst("bad") ?? worst("caution") ?? null;
}
