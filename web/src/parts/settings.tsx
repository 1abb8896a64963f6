import { createContext, useContext, useState } from "react";
import type { Limits } from "./limits";
import type { System, Units } from "./units";

/** What every part of a screen may need: unit system, unit factors, theme. */
export interface Settings {
  system: System;
  setSystem: (system: System) => void;
  units: Units;
  grades: string[];
  /** What is looked at on pan and pickup before anything is assembled. */
  inspectionItems: string[];
  largestUploadMb: number;
  /** Limits of the core's rules that words and pictures go by. */
  limits: Limits;
  theme: "paper" | "night";
  setTheme: (theme: "paper" | "night") => void;
}

export const SettingsContext = createContext<Settings | null>(null);

export function useSettings(): Settings {
  const settings = useContext(SettingsContext);
  if (!settings) throw new Error("useSettings must be used inside the signed-in frame");
  return settings;
}

/** Units as they were when a form was opened: what is typed keeps the unit that it was typed in. */
export function useFormUnits(): Pick<Settings, "units" | "system"> {
  const { units, system } = useSettings();
  return useState({ units, system })[0];
}
