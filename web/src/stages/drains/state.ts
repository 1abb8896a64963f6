import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";
import { unread } from "../../document/unread";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { worstDrain } from "./worstDrain";

/** The worst drain in a word, over the laps that the build is judged by. */
export function useDrainsState(): StageState {
  const { build, forecast } = useBuildView();
  const { system, units } = useSettings();
  const worst = worstDrain(forecast.over);
  if (!worst) return { mark: "nothing", word: unread(forecast) ?? "no drains" };
  if (worst.spare_mm === null || worst.state === "none")
    return { mark: "nothing", word: "no place" };
  if (build.invented.length > 0) return { mark: "nothing", word: "not yours" };
  const { figure, unit } = lengthAs(units, system, Math.abs(worst.spare_mm));
  return {
    mark: worst.state,
    word: worst.state === "bad" ? `${figure} ${unit} short` : `${figure} ${unit}`,
  };
}
