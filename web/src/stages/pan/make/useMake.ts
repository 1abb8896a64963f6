import { useState } from "react";
import { wordsOf } from "../../../api/client";
import { useMaking, type FlatPart, type Making } from "../../../api/making";
import { useBuildView } from "../../../document/BuildContext";

export interface Make {
  making: Making | undefined;
  picked: FlatPart | undefined;
  pick: (key: string) => void;
  /** Why there is nothing. */
  fault: string | null;
  retry: () => void;
}

/** Flat patterns of the pan, and the part looked at. */
export function useMake(): Make {
  const { build } = useBuildView();
  const [key, pick] = useState("");
  const query = useMaking(build);
  const making = query.data;
  return {
    making,
    picked: making?.parts.find((part) => part.key === key) ?? making?.parts[0],
    pick,
    fault: query.error ? wordsOf(query.error) : null,
    retry: () => void query.refetch(),
  };
}
