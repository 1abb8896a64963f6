import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";
import { unread } from "../../document/unread";
import { yours } from "../../parts/verdict";

/** The verdict in a word. */
export function useSloshState(): StageState {
  const { build, forecast } = useBuildView();
  const verdict = forecast.judged?.oil;
  if (!verdict || verdict.dry_s === null)
    return { mark: "nothing", word: unread(forecast) ?? "no lap" };
  const { state, dip_count, pressure_dip_count: pressure } = yours(verdict, build.invented);
  const dips = pressure ?? dip_count;
  switch (state) {
    case "not_safe":
      return { mark: "bad", word: dips === 1 ? "1 dip" : `${dips ?? 0} dips` };
    case "caution":
      return { mark: "caution", word: dip_count ? "dry, holds" : "draws air" };
    case "sound":
      return { mark: "good", word: "sound" };
    case "not_yours":
      return { mark: "nothing", word: "not yours" };
    default:
      return { mark: "nothing", word: "no lap" };
  }
}
