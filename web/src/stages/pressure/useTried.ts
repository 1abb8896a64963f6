import { useState } from "react";
import { useTrial, type Trial, type Tune } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { useSettings } from "../../parts/settings";

/** A bottle tried: what was asked for last, and the newest answer. */
export interface Tried {
  tune: Tune;
  setTune: (tune: Tune) => void;
  trial: Trial | undefined;
  /** The answer is of what is asked for. */
  isFresh: boolean;
  error: Error | null;
}

/**
 * Tries a bottle as it is dragged: one question is under way at a time, and the newest is asked
 * next, so that a quick hand does not pile them up.
 */
export function useTried(runId: number | null, first: Tune): Tried {
  const { build } = useBuildView();
  const { system } = useSettings();
  const [given, setGiven] = useState<{ state: number; tune: Tune } | null>(null);
  // what was tried on another state is done or dropped with it
  const tune = given?.state === build.state ? given.tune : first;
  const [asked, setAsked] = useState<Tune>(tune);
  const query = useTrial(build, runId, asked, system);
  const isAsked = JSON.stringify(asked) === JSON.stringify(tune);
  const { isFetching } = query;
  if (!isFetching && !isAsked) setAsked(tune); // the newest is asked next
  return {
    tune,
    setTune: (next) => setGiven({ state: build.state, tune: next }),
    trial: query.data,
    isFresh: isAsked && !isFetching,
    error: isAsked ? query.error : null,
  };
}
