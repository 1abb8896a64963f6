import type { PressureStage } from "../../api/pressure";
import { nearestIndex } from "../../plots/traces";

/** What the circuit carries at a moment: pressures, gas, flows, oil, by the layout's numbers. */
export interface Now {
  index: number;
  time: number;
  rpm: number;
  mouthGas: number;
  gallery: number;
  usual: number;
  inPanL: number;
  pressure: (node: number) => number;
  gas: (node: number) => number;
  /** Of a component's or run's element [L/min]; nil where there is none. */
  flow: (of: string, what: string) => number;
  /** In a component's vessel [L]. */
  held: (of: string, what: string) => number;
  heldL: number;
  chargeL: (bottle: string) => number;
}

/** The sample nearest to a moment. */
export function nowAt(stage: PressureStage, time: number): Now {
  const { samples, layout } = stage;
  const index = nearestIndex(samples.time_s, time);
  const at = (rows: readonly (readonly number[])[], row: number): number => rows[row]?.[index] ?? 0;
  const elements = layout.elements.map(({ of, what }) => `${of} ${what}`);
  const vessels = layout.vessels.map(({ of, what }) => `${of} ${what}`);
  return {
    index,
    time: samples.time_s[index] ?? 0,
    rpm: samples.rpm[index] ?? 0,
    mouthGas: samples.mouth_gas[index] ?? 0,
    gallery: samples.gallery_bar[index] ?? 0,
    usual: samples.usual_bar[index] ?? 0,
    inPanL: stage.in_pan_l[index] ?? 0,
    pressure: (node) => at(samples.pressure_bar, node),
    gas: (node) => at(samples.gas, node),
    flow: (of, what) => at(samples.flow_l_min, elements.indexOf(`${of} ${what}`)),
    held: (of, what) => at(samples.held_l, vessels.indexOf(`${of} ${what}`)),
    heldL: samples.held_l.reduce((sum, row) => sum + (row[index] ?? 0), 0),
    chargeL: (bottle) => at(samples.charge_l, layout.bottles.indexOf(bottle)),
  };
}

/** What goes from the mouth to the pump [L/min], and what of it is oil. */
export function drawnAt(stage: PressureStage, now: Now): { all: number; oil: number } {
  const row = stage.layout.elements.findIndex(({ what }) => what === "suction");
  const all = stage.samples.flow_l_min[row]?.[now.index] ?? 0;
  return { all, oil: all * (1 - now.mouthGas) };
}

/** What the engine drinks [L/min]: bearings, jets, cams, turbo. */
export const drunkAt = (stage: PressureStage, now: Now): number =>
  stage.layout.elements.reduce(
    (sum, { of, what }) =>
      ["bearings", "jets", "cams"].includes(what) ? sum + now.flow(of, what) : sum,
    0,
  );

/** What a bottle gives [L/min]; negative while it is being filled. */
export function givenAt(stage: PressureStage, now: Now, bottle: string): number {
  const row = stage.samples.charge_l[stage.layout.bottles.indexOf(bottle)] ?? [];
  const { time_s: times } = stage.samples;
  const [from, to] = [Math.max(0, now.index - 1), Math.min(row.length - 1, now.index + 1)];
  const span = (times[to] ?? 0) - (times[from] ?? 0);
  return span > 0 ? (((row[from] ?? 0) - (row[to] ?? 0)) / span) * 60 : 0;
}
