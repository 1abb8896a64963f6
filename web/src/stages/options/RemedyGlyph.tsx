import type { ReactElement } from "react";

/** What a group of remedies puts into a sump, drawn in the option's own ink. */
const PARTS: Record<string, string> = {
  joint: "M27 5v9M23 9.5h8",
  oil: "M5 13.5 47 9.5",
  gates: "M19 15.5v12M36 13.5v13M19 15.5 36 13.5",
  plates: "M8 17.5 44 14.5",
  crank: "M8 9.5q18 7 36 -3",
  sump: "M9 33 43 30",
  pickup: "M33 12v11M28 24.5l10 -1",
  pan: "M5 5 9 30 42 27 46 3",
  returns: "M49 4v16l-5 4",
  bottle: "M49 6h6v22h-6zM44 17h5",
  circuit: "M49 8h6v8h-6zM49 20h6v8h-6z",
  dry: "M47 6h9v22h-9zM40 24h7",
  own: "M27 9v14M20 16h14",
  together: "M19 15.5v12M36 13.5v13M5 12.5 47 8.5",
};

/** A small section of a sump that oil lies tilted in, with what the remedy adds. */
export function RemedyGlyph({ group }: { group: string }): ReactElement {
  return (
    <svg width="48" height="30" viewBox="0 0 58 36" aria-hidden="true" className="shrink-0">
      <path d="M6.5 19 8.6 30 42 27 44.5 9z" fill="var(--oil)" stroke="var(--oil-deep)" />
      <path d="M4 5 8.6 30 42 27 46 3" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path
        d="M26 9v15M22.5 26.5l7 -.6"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
        opacity={group === "pickup" ? 0.35 : 1}
      />
      <path
        d={PARTS[group] ?? ""}
        fill="none"
        stroke="var(--opt)"
        strokeWidth="2"
        strokeDasharray={group === "oil" || group === "sump" ? "3 2" : undefined}
      />
    </svg>
  );
}
