import type { Stage } from "../../document/stage";
import { useOptionsState } from "./state";

export const stage: Stage = {
  key: "options",
  name: "Options",
  group: "Decide",
  order: 70,
  words: "Remedies side by side: what each buys, costs and needs, and the smallest that holds.",
  letter: "o",
  load: async () => ({ default: (await import("./OptionsScreen")).OptionsScreen }),
  useRail: useOptionsState,
};
