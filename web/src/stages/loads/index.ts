import type { Stage } from "../../document/stage";
import { useLoadsState } from "./state";

export const stage: Stage = {
  key: "loads",
  name: "Loads",
  group: "Measure",
  order: 30,
  words: "The laps and loads that a build is judged by.",
  load: async () => ({ default: (await import("./Loads")).Loads }),
  useRail: useLoadsState,
};
