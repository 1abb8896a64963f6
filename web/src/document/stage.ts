import type { ComponentType } from "react";
import type { MarkState } from "../parts/Mark";

/** The four parts of the job, in the order of the work. */
export const GROUPS = ["Measure", "Forecast", "Decide", "Do"] as const;
export type Group = (typeof GROUPS)[number];

/** Where a stage of a build stands: a shape, and the same in two words. */
export interface StageState {
  mark: MarkState;
  word: string;
}

/**
 * A stage of the job. Each is a folder of its own whose index exports one as `stage`; the frame finds
 * them by themselves and knows none by name.
 */
export interface Stage {
  key: string;
  name: string;
  group: Group;
  /** Its place in the order of the work. */
  order: number;
  /** What it does. */
  words: string;
  /** Fetches its screen, which asks for what it draws itself. */
  load: () => Promise<{ default: ComponentType }>;
  /** Its state for the rail. A hook: it may ask. */
  useRail: () => StageState;
  /** Its figure in the head strip, and that figure's place there. */
  figure?: { place: number; Show: ComponentType<{ to: string }> };
  /** A word under the build's name, when something of this stage is pressing; else nothing. */
  Reminder?: ComponentType<{ to: string }>;
  /** Figures that the command box sets, by the names a builder says. */
  figures?: Readonly<Record<string, string>>;
  /** The key that opens it. */
  letter?: string;
  /** Used on a phone under the car: there its screen has its own head, and the frame none. */
  isBench?: boolean;
  /** Shown when a build is opened. */
  isHome?: boolean;
  /** Fetches what its screen will want, while that comes. */
  warm?: () => void;
}
