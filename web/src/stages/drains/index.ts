import type { Stage } from "../../document/stage";
import { figureToCome } from "../../document/HeadFigure";

export const stage: Stage = {
  key: "drains",
  name: "Drains",
  group: "Forecast",
  order: 60,
  words: "Every drain from head and turbo: the head of oil it has, and when it backs up.",
  figure: { place: 30, Show: figureToCome("Worst drain") },
};
