import type { ReactElement } from "react";

export type MarkState = "nothing" | "started" | "bad" | "good" | "caution";

/** State as a shape: dashed ring, half disc, brick triangle, green disc with tick, hollow triangle. */
export function Mark({
  state,
  size = 18,
  onInk = false,
}: {
  state: MarkState;
  size?: number;
  onInk?: boolean;
}): ReactElement {
  const bad = onInk ? "var(--bad-on-ink)" : "var(--bad)";
  const good = onInk ? "var(--good-on-ink)" : "var(--good)";
  const ink = onInk ? "var(--paper)" : "var(--ink)";
  const paper = onInk ? "var(--ink)" : "var(--panel)";
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" className="shrink-0">
      {state === "nothing" && (
        <circle
          cx="10"
          cy="10"
          r="7.5"
          fill="none"
          stroke={onInk ? ink : "var(--line)"}
          strokeWidth="1.75"
          strokeDasharray="3 2.9"
        />
      )}
      {state === "started" && (
        <>
          <circle cx="10" cy="10" r="7.5" fill="none" stroke={ink} strokeWidth="1.75" />
          <path d="M10 2.5a7.5 7.5 0 0 0 0 15z" fill={ink} />
        </>
      )}
      {state === "good" && (
        <>
          <circle cx="10" cy="10" r="8.5" fill={good} />
          <path d="M5.8 10.2l2.9 3 5.4-6" fill="none" stroke={paper} strokeWidth="2.2" />
        </>
      )}
      {state === "bad" && (
        <>
          <path
            d="M10 2 19 18H1z"
            fill={bad}
            stroke={bad}
            strokeWidth="1.5"
            strokeLinejoin="round"
          />
          <path d="M10 7.5v5.2M10 14.4v1.9" stroke={paper} strokeWidth="2.1" />
        </>
      )}
      {state === "caution" && (
        <>
          <path
            d="M10 2.6 18.4 17.6H1.6z"
            fill="none"
            stroke={ink}
            strokeWidth="1.75"
            strokeLinejoin="round"
          />
          <path d="M10 8v4.4M10 14v1.7" stroke={ink} strokeWidth="1.75" />
        </>
      )}
    </svg>
  );
}
