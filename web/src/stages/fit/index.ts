import type { Stage } from "../../document/stage";

export const stage: Stage = {
  key: "fit",
  name: "Fit",
  group: "Do",
  order: 100,
  words: "Rounds of test fitting: what touches, which gap was wanted and found.",
};
