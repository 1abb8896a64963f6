import type { ReactElement } from "react";

/**
 * Hatches of all drawings and plots, once a page: cut metal at 45° every 5 px, air the other way
 * every 6 px.
 */
export function Hatches(): ReactElement {
  return (
    <svg id="hatches" width="0" height="0" aria-hidden="true" className="absolute">
      <defs>
        <pattern id="hatch-metal" width="5" height="5" patternUnits="userSpaceOnUse">
          <rect width="5" height="5" fill="var(--metal)" />
          <path d="M-1 6 6 -1M-1 1 1 -1M4 6 6 4" stroke="var(--metal-ink)" strokeWidth="1" />
        </pattern>
        <pattern id="hatch-air" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--air)" />
          <path d="M-1 -1 7 7M-1 5 1 7M5 -1 7 1" stroke="var(--air-ink)" strokeWidth="0.9" />
        </pattern>
      </defs>
    </svg>
  );
}
