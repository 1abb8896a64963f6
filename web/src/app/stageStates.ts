import type { BuildOut, PanFigures, Slosh } from "../api/queries";
import { yours } from "../parts/verdict";
import type { StageState } from "./JobRail";

function carState(build: BuildOut, pan: PanFigures | undefined): StageState {
  const { place, rail_height_mm: height } = build.document.car;
  if (pan?.ground?.margin_mm != null && pan.ground.margin_mm < 0)
    return { mark: "bad", word: "too low" };
  if (build.invented.includes("car")) return { mark: "nothing", word: "not yours" };
  if (place == null || height == null) return { mark: "started", word: "started" };
  return { mark: "good", word: "sound" };
}

function panState(build: BuildOut, pan: PanFigures | undefined): StageState {
  if (build.invented.includes("pan")) return { mark: "nothing", word: "not yours" };
  const wrong = pan?.checks.filter(({ state }) => state !== "good") ?? [];
  if (!pan) return { mark: "started", word: "drawn" };
  if (wrong.length === 0) return { mark: "good", word: "sound" };
  const mark = wrong.some(({ state }) => state === "bad") ? "bad" : "caution";
  return { mark, word: wrong.length === 1 ? "1 check" : `${wrong.length} checks` };
}

/** Where each stage of a build stands. */
export function statesOf(
  build: BuildOut,
  slosh: Slosh | undefined,
  pan: PanFigures | undefined,
): Record<string, StageState> {
  const states: Record<string, StageState> = {
    car: carState(build, pan),
    pan: panState(build, pan),
    loads: build.lap_id ? { mark: "good", word: "1 lap" } : { mark: "nothing", word: "no lap" },
    slosh: { mark: "nothing", word: "no lap" },
  };
  const verdict = slosh?.verdict;
  if (verdict?.state === "runs_dry")
    states.slosh = {
      mark: "bad",
      word: verdict.dip_count === 1 ? "1 dip" : `${verdict.dip_count ?? 0} dips`,
    };
  if (verdict?.state === "draws_air") states.slosh = { mark: "caution", word: "draws air" };
  if (verdict?.state === "sound") states.slosh = { mark: "good", word: "sound" };
  if (verdict && verdict.dry_s !== null && yours(verdict, build.invented).state === "not_yours")
    states.slosh = { mark: "nothing", word: "not yours" };
  return states;
}
