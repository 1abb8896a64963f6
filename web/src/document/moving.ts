import type { Slosh } from "../api/queries";
import type { Cells, Moving } from "../api/runs";

/** How fine the cells of a run are, in short. */
export const CELLS: Record<Cells, string> = { quick: "coarse", bench: "10 mm", fine: "8 mm" };

/** Values at other times, drawn straight between those there are; both times rise. */
export function atTimes(
  times: readonly number[],
  values: readonly number[],
  wanted: readonly number[],
): number[] {
  let after = 1;
  return wanted.map((time) => {
    while (after < times.length - 1 && (times[after] ?? 0) < time) after += 1;
    const [t0, t1] = [times[after - 1] ?? 0, times[after] ?? 0];
    const [v0, v1] = [values[after - 1] ?? 0, values[after] ?? values[after - 1] ?? 0];
    const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 0;
    return v0 + share * (v1 - v0);
  });
}

/**
 * The settled forecast with the moving oil's verdict in its place, and what its first mouth saw, the
 * one that feeds the gallery.
 */
export function withMoving(slosh: Slosh, moving: Moving): Slosh {
  if (!slosh.lap) return slosh;
  const { samples } = slosh.lap;
  const [mouth] = moving.mouths;
  if (!mouth) return slosh;
  const { time_s: times } = moving.samples;
  return {
    ...slosh,
    model_note: moving.note,
    verdict: moving.verdict,
    lap: {
      ...slosh.lap,
      verdict: moving.verdict,
      dry_s: mouth.dry_s,
      draws_air_s: mouth.draws_air_s,
      least_cover_mm: mouth.least_cover_mm,
      least_cover_at_s: mouth.least_cover_at_s,
      dips: mouth.dips,
      samples: {
        ...samples,
        cover_mm: atTimes(times, mouth.samples.cover_mm, samples.time_s),
        gas_share: atTimes(times, mouth.samples.gas_share, samples.time_s),
      },
    },
  };
}

/** The look at a time of the lap, or the last before its end. */
export function lookAt(moving: Moving, time: number): number {
  const { time_s: times } = moving.samples;
  const found = times.findIndex((each) => each >= time - 1e-6);
  return found < 0 ? times.length - 1 : found;
}
