import type { Stage } from "../../document/stage";
import { useLinesState } from "./state";

export const stage: Stage = {
  key: "lines",
  name: "Lines",
  group: "Decide",
  order: 90,
  words: "Every run from port to port: ends, size, length, bends, and the shopping list.",
  load: async () => ({ default: (await import("./LinesScreen")).LinesScreen }),
  useRail: useLinesState,
};
