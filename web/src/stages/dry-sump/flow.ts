import type { Dry, DryOverLap, Sized } from "../../api/dry";
import type { Moment } from "../../plots/dryMoment";

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
  const fed = over.corners.filter(({ shares }) => !shares.every(isAir));
  if (fed.length === 0) return "No stage has oil in any corner of this lap.";
  const most = dry.stages.map((_, at) => Math.max(...fed.map(({ brings }) => brings[at] ?? 0)));
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
