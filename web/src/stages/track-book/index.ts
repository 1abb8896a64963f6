import type { Stage } from "../../document/stage";
import { Reminder } from "./Reminder";
import { useBookState } from "./state";

export const stage: Stage = {
  key: "track-book",
  name: "Track book",
  group: "Do",
  order: 120,
  words: "Sessions on the track: levels, temperatures, what was used, what is due.",
  load: async () => ({ default: (await import("./TrackBookScreen")).TrackBookScreen }),
  useRail: useBookState,
  Reminder,
  isBench: true,
};
