import type { Stage } from "../../document/stage";
import { LowestFigure } from "./LowestFigure";

export const stage: Stage = {
  key: "pressure",
  name: "Pressure",
  group: "Forecast",
  order: 50,
  words:
    "Gallery pressure over the lap, measured over forecast, and the accumulator. Pressure dips are on Slosh already, the circuit itself under Numbers.",
  figure: { place: 20, Show: LowestFigure },
};
