import type { Stage } from "../../document/stage";

export const stage: Stage = {
  key: "track-book",
  name: "Track book",
  group: "Do",
  order: 120,
  words: "Sessions, levels and pressure dips beside the forecast, and what is due.",
};
