import type { Schemas } from "../../api/client";

type Dip = Schemas["DipOut"];

/** Dips of two models count as one place when they are no farther apart than this [s]. */
const BESIDE_S = 0.3;

const meet = (one: Dip, other: Dip): boolean =>
  one.start_s - BESIDE_S <= other.end_s && other.start_s - BESIDE_S <= one.end_s;

/** How long settled oil leaves the mouth dry where moving oil does [s]. */
export const settledDry = (dip: Dip, settled: readonly Dip[]): number =>
  settled.filter((other) => meet(dip, other)).reduce((sum, other) => sum + other.dry_s, 0);

/** Dips of settled oil where moving oil has none. */
export const onlySettled = (moving: readonly Dip[], settled: readonly Dip[]): Dip[] =>
  settled.filter((other) => !moving.some((dip) => meet(dip, other)));
