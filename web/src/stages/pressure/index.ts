import type { Stage } from "../../document/stage";
import { LowestFigure } from "./LowestFigure";
import { usePressureState } from "./state";

export const stage: Stage = {
  key: "pressure",
  name: "Pressure",
  group: "Forecast",
  order: 50,
  words: "Gallery pressure over the lap, part by part, and the accumulator that holds it.",
  load: async () => ({ default: (await import("./PressureScreen")).PressureScreen }),
  useRail: usePressureState,
  figure: { place: 20, Show: LowestFigure },
};
