import { useState } from "react";
import {
  useDrainTrial,
  type Assumed,
  type Drain,
  type DrainTrial,
  type Tune,
} from "../../api/drains";
import { wordsOf } from "../../api/client";
import { useBuildView } from "../../document/BuildContext";
import { useSettings } from "../../parts/settings";

type Change = Omit<Tune, "run">;

export interface Tried {
  change: Change;
  isSet: boolean;
  setChange: (change: Change) => void;
  trial: DrainTrial | undefined;
  isFresh: boolean;
  error: string | null;
  fit: () => Promise<void>;
  fault: string | null;
}

/** A drain set otherwise, to try; forgotten as soon as the build or the drain is another. */
export function useTrial(drain: Drain, assumed: Assumed): Tried {
  const { build, edit } = useBuildView();
  const { system } = useSettings();
  const base = `${build.id} ${build.state} ${drain.run}`;
  const [held, setHeld] = useState<{ base: string; change: Change }>({ base, change: {} });
  const [fault, setFault] = useState<string | null>(null);
  const change = held.base === base ? held.change : {};
  const isSet = Object.keys(change).length > 0;
  const tune = isSet ? { run: drain.run, ...change } : null;
  const query = useDrainTrial(build, tune, assumed, system);

  async function fit(): Promise<void> {
    setFault(null);
    try {
      await edit.mutateAsync({
        kind: "act",
        act: { kind: "tune_drain", run: drain.run, ...change } as never,
        system,
      });
    } catch (refused) {
      setFault(wordsOf(refused));
    } finally {
      edit.reset();
    }
  }

  return {
    change,
    isSet,
    setChange: (next) => {
      setFault(null);
      setHeld({ base, change: next });
    },
    trial: isSet ? query.data : undefined,
    isFresh: isSet && !query.isPlaceholderData && !query.isFetching,
    error: isSet && query.error ? wordsOf(query.error) : null,
    fit,
    fault,
  };
}
