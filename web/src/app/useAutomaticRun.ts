import { useEffect } from "react";
import type { BuildOut } from "../api/queries";
import { useAskForRun } from "../api/runs";

/** How long an edit must have stood before it is run [ms]. */
const SETTLED = 1000;

/** After each settled edit a quick run starts by itself, over all laps it is judged by. */
export function useAutomaticRun(build: BuildOut | undefined): void {
  const { mutate } = useAskForRun();
  const { id, state, lap_id: lapId } = build ?? {};
  const laps = build?.judged_by.join();
  useEffect(() => {
    if (id === undefined || lapId == null) return undefined;
    const timer = window.setTimeout(
      () => mutate({ buildId: id, cells: "quick", automatic: true }),
      SETTLED,
    );
    return () => window.clearTimeout(timer);
  }, [id, state, lapId, laps, mutate]);
}
