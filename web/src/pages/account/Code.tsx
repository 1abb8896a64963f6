import type { ReactElement } from "react";

/** A code for a phone's camera: dark on light whatever the theme, with the quiet margin it needs. */
export function Code({ rows, words }: { rows: readonly string[]; words: string }): ReactElement {
  const margin = 4;
  const size = rows.length + 2 * margin;
  const dark = rows
    .flatMap((row, y) =>
      Array.from(row, (field, x) => (field === "1" ? `M${x + margin} ${y + margin}h1v1h-1z` : "")),
    )
    .join("");
  return (
    <svg
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={words}
      shapeRendering="crispEdges"
      className="w-40 shrink-0"
    >
      <rect width={size} height={size} fill="#ffffff" />
      <path d={dark} fill="#000000" />
    </svg>
  );
}
