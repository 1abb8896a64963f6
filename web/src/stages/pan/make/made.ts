import { useState } from "react";
import { AS_WELDED, type Made } from "../../../api/making";

const keyOf = (buildId: number): string => `bilge-made-${buildId}`;

/** What was kept in this browser, if it can be read; else all is welded. */
export function keptMade(text: string | null): Made {
  if (text === null) return AS_WELDED;
  try {
    const kept = JSON.parse(text) as Partial<Made>;
    const bent = Array.isArray(kept.bent)
      ? kept.bent.filter((pair) => /^\d{1,4}-\d{1,4}$/.test(String(pair)))
      : [];
    const number = (value: unknown): value is number => typeof value === "number" && value >= 0;
    return {
      bent,
      radiusMm: number(kept.radiusMm) ? kept.radiusMm : null,
      kFactor: number(kept.kFactor) && kept.kFactor <= 1 ? kept.kFactor : null,
    };
  } catch {
    return AS_WELDED;
  }
}

/** A pair bent that was welded, or the other way round. */
export const withSeam = (made: Made, pair: string, bent: boolean): Made => ({
  ...made,
  bent: bent
    ? [...made.bent.filter((each) => each !== pair), pair]
    : made.bent.filter((each) => each !== pair),
});

/** How this build's pan is made, kept in this browser. */
export function useMade(buildId: number): [Made, (made: Made) => void] {
  const [made, setMade] = useState(() => keptMade(window.localStorage.getItem(keyOf(buildId))));
  return [
    made,
    (next) => {
      setMade(next);
      window.localStorage.setItem(keyOf(buildId), JSON.stringify(next));
    },
  ];
}
