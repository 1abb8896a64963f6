import type { Schemas } from "../../api/client";
import type { PressureStage } from "../../api/pressure";
import type { Shown, System, Units } from "../../parts/units";
import { flowAs, pressureAs, temperatureWords } from "../../parts/units";
import { placeWords } from "../../plots/place";
import { loadWords } from "../../plots/rose";
import { nearestIndex } from "../../plots/traces";
import { drawnAt, drunkAt, givenAt, nowAt } from "./now";

type Lap = Schemas["LapForecastOut"];

const said = ({ figure, unit }: Shown): string => `${figure} ${unit}`;

const SOME = 0.05; // of what is drawn that is gas, from which it is told
const HELD = 0.97; // of the usual pressure, under which the bottle is what holds it
const FLOWS = 0.5; // [L/min] of a bottle that is told

/** The moment in a headline, a line below, and what keeps the engine fed. */
export interface Told {
  title: string;
  words: string;
  sentence: string;
}

/** What the screen says of a moment. */
export function toldAt(
  stage: PressureStage,
  lap: Lap | null,
  time: number,
  temperatureC: number,
  dipShare: number,
  { system, units }: { system: System; units: Units },
  /** The pump draws from a tank. */
  isDry = false,
): Told {
  const now = nowAt(stage, time);
  const bar = (value: number): string => said(pressureAs(units, system, value));
  const flow = (value: number): string => said(flowAs(units, system, value));
  const drawn = drawnAt(stage, now);
  const drunk = drunkAt(stage, now);
  const [bottle] = stage.layout.bottles;
  const given = bottle ? givenAt(stage, now, bottle) : 0;
  const swallows =
    now.mouthGas >= SOME
      ? `the pump swallows ${(now.mouthGas * 100).toFixed(0)} % air`
      : "the pump draws oil";
  const isDip = now.gallery < dipShare * now.usual;
  const gallery = isDip
    ? `the gallery is down to ${bar(now.gallery)}`
    : given > FLOWS && now.gallery < HELD * now.usual
      ? `the bottle holds the gallery at ${bar(now.gallery)}`
      : `the gallery has ${bar(now.gallery)}`;
  const where = lap ? `${placeWords(lap, time)}: ` : "Level and steady: ";
  const at = lap ? nearestIndex(lap.samples.time_s, time) : 0;
  const load = lap
    ? `${loadWords({ sideG: lap.samples.side_g[at] ?? 0, foreG: lap.samples.fore_g[at] ?? 0 })} · `
    : "";
  const wanted = `usual ${bar(now.usual)}, under ${bar(now.usual * dipShare)} a dip`;
  const adds =
    given > FLOWS
      ? ` The bottle adds ${flow(given)}.`
      : given < -FLOWS
        ? ` The bottle takes ${flow(-given)} to be full again.`
        : "";
  const warm = temperatureWords(units, system, temperatureC);
  return {
    title: `${where}${swallows}, ${gallery}`,
    words: `${load}${now.rpm.toFixed(0)} rpm, ${wanted} · oil ${warm}`,
    sentence: `${isDry ? "The tank gives" : "The mouth lets in"} ${flow(drawn.oil)} of oil; the engine drinks ${flow(drunk)}.${adds}`,
  };
}

const often = (times: number): string => (times === 1 ? "once" : `${times} times`);

/** How an electric valve fares, and what it would do were it let go at once. */
export function valveWords(opens: number, chatters: number | null): string {
  const held = `let oil out ${often(opens)} over the lap, held open a second each time (ours)`;
  return chatters === null || chatters <= opens
    ? held
    : `${held}; let go as soon as the pressure is back it would open ${often(chatters)}: it chatters`;
}
