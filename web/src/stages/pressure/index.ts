import type { Stage } from "../../document/stage";
import { figureToCome } from "../../document/HeadFigure";

export const stage: Stage = {
  key: "pressure",
  name: "Pressure",
  group: "Forecast",
  order: 50,
  words:
    "Gallery pressure over the lap, measured over forecast, and the accumulator. The circuit itself is under Numbers, on Slosh and Pan.",
  figure: { place: 20, Show: figureToCome("Lowest gallery") },
};
