import type { ReactNode } from "react";
import type { Assumed, DrainsStage } from "../../api/drains";
import { Numbers } from "../../document/Numbers";
import type { Drawing } from "../../drawing/views";
import { BreathingPage } from "./BreathingPage";
import { HeadsPage } from "./HeadsPage";
import { Rules } from "./Rules";
import type { Tab } from "./tabs";

/** The pages beside the drawing that are there whether a line drains or not. */
export function otherPages(
  stage: DrainsStage,
  assumed: Assumed,
  onAssume: (assumed: Assumed) => void,
  drawing: Drawing | null,
): { key: Tab; label: string; content: ReactNode }[] {
  return [
    { key: "heads", label: "Heads", content: <HeadsPage stage={stage} /> },
    {
      key: "breathing",
      label: "Gas",
      content: <BreathingPage stage={stage} assumed={assumed} onAssume={onAssume} />,
    },
    { key: "rules", label: "Rules", content: <Rules stage={stage} /> },
    { key: "numbers", label: "Numbers", content: <Numbers drawing={drawing} lead="circuit" /> },
  ];
}
