import type { Stage } from "../../document/stage";
import { GroundFigure } from "./GroundFigure";
import { useCarState } from "./state";

export const stage: Stage = {
  key: "car",
  name: "Car",
  group: "Measure",
  order: 10,
  words: "Where the engine sits and how, its pump and oil, and what is round the pan.",
  load: async () => ({ default: (await import("./CarScreen")).CarScreen }),
  useRail: useCarState,
  figure: { place: 40, Show: GroundFigure },
  figures: {
    oil: "oil.volume_l",
    "oil away": "oil.away_l",
    temperature: "oil.temperature_c",
    lean: "car.lean_right_deg",
  },
};
