import { isUnderWay, useOptions } from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** What was found among the remedies, in two words. */
export function useOptionsState(): StageState {
  const { build } = useBuildView();
  const study = useOptions(build).data?.study;
  const options = study?.options;
  if (!study) return { mark: "nothing", word: "none tried" };
  if (isUnderWay(study))
    return { mark: "started", word: options ? `${options.tried} of ${options.to_try}` : "begun" };
  if (!study.is_current) return { mark: "started", word: "of before" };
  if (!options) return { mark: "nothing", word: "none tried" };
  const chosen = options.rows.find((row) => row.key === options.choice.key);
  if (chosen) return { mark: "good", word: `${chosen.letter} holds` };
  if (study.progress.status === "finished") return { mark: "bad", word: "none holds" };
  return { mark: "started", word: `${options.tried} tried` };
}
