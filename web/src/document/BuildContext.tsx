import type { UseMutationResult, UseQueryResult } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import type { BuildOut, Edit, Slosh } from "../api/queries";
import type { Latest, Moving } from "../api/runs";
import type { Judged, OverLap } from "./worst";

export type EditMutation = UseMutationResult<BuildOut, Error, Edit>;

/** The forecast of the build as it stands, in the oil that is wanted. */
export interface Forecast {
  /** In settled oil. */
  settled: UseQueryResult<Slosh>;
  /** With the figures of moving oil in it, where they are known and wanted. */
  shown: Slosh | undefined;
  /** Over the worst of the laps that it is judged by. */
  judged: Judged | undefined;
  /** Over each of them, the worst first. */
  over: readonly OverLap[];
  /** Its runs in moving oil. */
  latest: Latest | undefined;
  /** Of the finest finished run. */
  figures: Moving | null;
  /** Whether moving oil is wanted. */
  moves: boolean;
  setMoves: (moves: boolean) => void;
}

/** The build on the screen, its forecast, and what can be done with it. */
export interface BuildView {
  build: BuildOut;
  edit: EditMutation;
  forecast: Forecast;
  /** What came first has been there for a moment: what can wait may be asked for. */
  isCalm: boolean;
  /** The moment of the lap that was picked, the same on every screen; null: none yet. */
  picked: number | null;
  pick: (time: number) => void;
  /** Opens a stage by its key. */
  go: (stage: string) => void;
  /** Opens the history, to name a revision. */
  openHistory: () => void;
}

export const BuildContext = createContext<BuildView | null>(null);

export function useBuildView(): BuildView {
  const view = useContext(BuildContext);
  if (!view) throw new Error("useBuildView must be used inside a build's frame");
  return view;
}
