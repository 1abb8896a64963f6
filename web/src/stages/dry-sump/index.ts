import type { Stage } from "../../document/stage";
import { useDrySumpState } from "./state";

export const stage: Stage = {
  key: "dry-sump",
  name: "Dry sump",
  group: "Decide",
  order: 80,
  words: "Stages, drive, tank and separator, sized and laid over the lap.",
  load: async () => ({ default: (await import("./DrySumpScreen")).DrySumpScreen }),
  useRail: useDrySumpState,
};
