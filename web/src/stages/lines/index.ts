import type { Stage } from "../../document/stage";

export const stage: Stage = {
  key: "lines",
  name: "Lines",
  group: "Decide",
  order: 90,
  words: "Every run from port to port: ends, size, length, bends, and the shopping list.",
};
