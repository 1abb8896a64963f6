import type { Stage } from "../../document/stage";
import { useFitState } from "./state";

export const stage: Stage = {
  key: "fit",
  name: "Fit",
  group: "Do",
  order: 100,
  words: "Rounds of test fitting: what touches, which gap was wanted and found.",
  load: async () => ({ default: (await import("./FitScreen")).FitScreen }),
  useRail: useFitState,
  isBench: true,
};
