import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";
import { unread } from "../../document/unread";
import { useSettings } from "../../parts/settings";
import { pressureAs } from "../../parts/units";

/** The lowest gallery pressure in a word, where a run in moving oil tells it. */
export function usePressureState(): StageState {
  const { build, forecast } = useBuildView();
  const { system, units } = useSettings();
  const pressure = forecast.figures?.pressure;
  if (!pressure) {
    const word =
      unread(forecast) ?? (forecast.settled.data?.lap === null ? "no lap" : "needs a run");
    return { mark: "nothing", word };
  }
  const { figure, unit } = pressureAs(units, system, pressure.lowest_bar);
  if (build.invented.length > 0) return { mark: "nothing", word: "not yours" };
  return { mark: pressure.dips.length > 0 ? "bad" : "good", word: `${figure} ${unit}` };
}
