import type { ReactElement } from "react";
import type { PlaceJudged } from "../../api/judged";

/** A ring is what was forecast, a dot what was measured; both: it came where it was forecast. */
export function DipMark({
  word,
  size = 1,
}: {
  word: PlaceJudged["word"];
  size?: number;
}): ReactElement {
  const isForecast = word !== "miss";
  const isMeasured = word === "hit" || word === "miss";
  return (
    <g transform={`scale(${size})`} data-dip={word}>
      {isForecast && (
        <circle
          r="9.5"
          fill="var(--paper)"
          stroke="var(--oil-deep)"
          strokeWidth="2.5"
          strokeDasharray={word === "not_shown" ? "3 3" : undefined}
        />
      )}
      {isMeasured && <circle r="5.5" fill="var(--ink)" />}
    </g>
  );
}
