import { useJob } from "../../api/job";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";

/** How far the job is, in two words. */
export function useJobState(): StageState {
  const { build, isCalm } = useBuildView();
  const told = useJob(build, isCalm).data;
  if (!told) return { mark: "nothing", word: "" };
  const { card } = told;
  if (!card) return { mark: "nothing", word: "car not told" };
  if (card.steps.length === 0)
    return told.over.length > 0
      ? { mark: "good", word: "done" }
      : { mark: "nothing", word: "no work" };
  if (told.number === null) return { mark: "nothing", word: `${card.steps.length} steps` };
  const mark = card.bad.length > 0 ? "bad" : "started";
  return { mark, word: `${card.done} of ${card.steps.length}` };
}
