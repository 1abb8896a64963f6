import { lazy, type ComponentType } from "react";
import { GROUPS, type Group, type Stage } from "../document/stage";

const folders = import.meta.glob<{ stage: Stage }>("../stages/*/index.ts", { eager: true });

/** Every stage, in the order of the work: one for each folder in `stages`. */
export const STAGES: readonly Stage[] = Object.values(folders)
  .map(({ stage }) => stage)
  .sort((one, other) => one.order - other.order);

/** The parts of the job with their stages. */
export const STAGES_OF: readonly { name: Group; stages: readonly Stage[] }[] = GROUPS.map(
  (name) => ({ name, stages: STAGES.filter(({ group }) => group === name) }),
);

export const stageOf = (key: string): Stage | undefined => STAGES.find((each) => each.key === key);

/** What is shown when a build is opened. */
export const HOME = (STAGES.find(({ isHome }) => isHome) ?? STAGES[0])?.key ?? "";

/** Figures that the command box sets, of all stages. */
export const FIGURES: Readonly<Record<string, string>> = Object.assign(
  {},
  ...STAGES.map(({ figures }) => figures ?? {}),
) as Record<string, string>;

/** The figures of the head strip, in their order there. */
export const HEAD_FIGURES = STAGES.flatMap(({ key, figure }) =>
  figure ? [{ key, ...figure }] : [],
).sort((one, other) => one.place - other.place);

/** The screens, each fetched when it is first shown. */
export const SCREENS: Readonly<Partial<Record<string, ComponentType>>> = Object.fromEntries(
  STAGES.map(({ key, load }) => [key, lazy(load)]),
);

/** Fetches a stage's screen ahead of its time: what the address asks for, while the build comes. */
export function fetchAhead(path: string): void {
  const key = /^\/builds\/\d+\/([a-z-]+)/.exec(path)?.[1];
  // a fault is said where the screen is shown
  stageOf(key ?? "")
    ?.load()
    .catch(() => undefined);
}

/** Words under the build's name, of the stages that have something pressing. */
export const REMINDERS = STAGES.flatMap(({ key, Reminder }) =>
  Reminder ? [{ key, Show: Reminder }] : [],
);
