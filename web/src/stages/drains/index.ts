import type { Stage } from "../../document/stage";
import { useDrainsState } from "./state";
import { WorstFigure } from "./WorstFigure";

export const stage: Stage = {
  key: "drains",
  name: "Drains",
  group: "Forecast",
  order: 60,
  words: "Every drain from head and turbo: the head of oil it has, and when it backs up.",
  load: async () => ({ default: (await import("./DrainsScreen")).DrainsScreen }),
  useRail: useDrainsState,
  figure: { place: 30, Show: WorstFigure },
};
