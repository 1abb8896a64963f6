import type { ReactElement } from "react";

export type HowFarState = "have" | "ordered" | "arrived";
type Shown = HowFarState | "to_order";

/** How far a part of an order is, in words. */
export const HOW_FAR: Readonly<Record<Shown, string>> = {
  to_order: "to order",
  have: "have it",
  ordered: "ordered",
  arrived: "arrived",
};

/** Says how far a part of an order is; null: to order still. */
export function HowFar({
  words,
  state,
  onTick,
}: {
  /** The part's name. */
  words: string;
  state: HowFarState | null;
  onTick: (state: HowFarState | null) => void;
}): ReactElement {
  return (
    <select
      aria-label={`How far: ${words}`}
      value={state ?? "to_order"}
      onChange={(event) => {
        const next = event.target.value as Shown;
        onTick(next === "to_order" ? null : next);
      }}
      className="min-h-8 rounded-[2px] border border-line bg-panel px-1 py-0.5 text-[13px]"
    >
      {(Object.entries(HOW_FAR) as [Shown, string][]).map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </select>
  );
}
