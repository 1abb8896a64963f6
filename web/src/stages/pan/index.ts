import type { Stage } from "../../document/stage";
import { usePanState } from "./state";

export const stage: Stage = {
  key: "pan",
  name: "Pan",
  group: "Measure",
  order: 20,
  words:
    "The pan to scale from its measurements, what it holds, and whether it agrees with itself.",
  load: async () => ({ default: (await import("./PanScreen")).PanScreen }),
  useRail: usePanState,
  figures: { "mouth gap": "pickup.gap_mm", skirt: "pan.skirt_height_mm" },
};
