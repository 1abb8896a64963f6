import type { Stage } from "../../document/stage";
import { canDraw3d, fetchScene } from "../../scene/fetching";
import { DryFigure } from "./DryFigure";
import { useSloshState } from "./state";

export const stage: Stage = {
  key: "slosh",
  name: "Slosh",
  group: "Forecast",
  order: 40,
  words: "When, where and for how long the pickup runs dry over the lap.",
  load: async () => ({ default: (await import("./SloshScreen")).SloshScreen }),
  useRail: useSloshState,
  figure: { place: 10, Show: DryFigure },
  isHome: true,
  warm: () => {
    if (canDraw3d()) fetchScene();
  },
};
