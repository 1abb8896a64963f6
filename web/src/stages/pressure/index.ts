import type { Stage } from "../../document/stage";
import { figureToCome } from "../../document/HeadFigure";

export const stage: Stage = {
  key: "pressure",
  name: "Pressure",
  group: "Forecast",
  order: 50,
  words: "Gallery pressure over the lap, measured over forecast, and the accumulator.",
  figure: { place: 20, Show: figureToCome("Lowest gallery") },
};
