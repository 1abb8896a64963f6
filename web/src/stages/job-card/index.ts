import type { Stage } from "../../document/stage";
import { useJobState } from "./state";

export const stage: Stage = {
  key: "job-card",
  name: "Job card",
  group: "Do",
  order: 110,
  words: "The work in order, with torque, timers, cautions and sign-off.",
  load: async () => ({ default: (await import("./JobCardScreen")).JobCardScreen }),
  useRail: useJobState,
  isBench: true,
};
