import type { Stage } from "../../document/stage";

export const stage: Stage = {
  key: "job-card",
  name: "Job card",
  group: "Do",
  order: 110,
  words: "The work in order, with torque, timers, cautions and sign-off.",
};
