import { useState } from "react";
import { wordsOf } from "../../../api/client";
import { useMaking, type FlatPart, type Made, type Making } from "../../../api/making";
import { useBuildView } from "../../../document/BuildContext";
import { useMade } from "./made";

export interface Make {
  making: Making | undefined;
  made: Made;
  setMade: (made: Made) => void;
  picked: FlatPart | undefined;
  pick: (key: string) => void;
  /** Why there is nothing, or what was asked cannot be laid flat. */
  fault: string | null;
  retry: () => void;
}

/** Flat patterns of the pan, how it is made, and the part looked at. */
export function useMake(): Make {
  const { build } = useBuildView();
  const [made, setMade] = useMade(build.id);
  const [key, pick] = useState("");
  const query = useMaking(build, made);
  const making = query.data;
  return {
    making,
    made,
    setMade,
    picked: making?.parts.find((part) => part.key === key) ?? making?.parts[0],
    pick,
    fault: query.error ? wordsOf(query.error).replace(/^bent(\.\d+)?: /, "") : null,
    retry: () => void query.refetch(),
  };
}
