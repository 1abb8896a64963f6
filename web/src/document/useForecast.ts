import { useState } from "react";
import { useSlosh, type BuildOut } from "../api/queries";
import { useFigures, useLatest } from "../api/runs";
import type { Forecast } from "./BuildContext";
import { withMoving } from "./moving";
import { judgedBy } from "./worst";

/** The forecast of a build as it stands: settled at once, moving when it is known. */
export function useForecast(build: BuildOut | undefined): Forecast {
  const settled = useSlosh(build);
  const latest = useLatest(build).data;
  const [moves, setMoves] = useState(true);
  const figures = useFigures(latest?.finished?.id ?? null, build?.state).data ?? null;
  const shown =
    settled.data && figures && moves && !settled.isPlaceholderData
      ? withMoving(settled.data, figures)
      : settled.data;
  const over = latest?.over ?? shown?.over ?? [];
  const judged =
    shown &&
    judgedBy(
      {
        verdict: shown.verdict,
        lapId: shown.lap?.lap_id ?? null,
        moves: shown !== settled.data,
      },
      over,
    );
  return { settled, shown, judged, over, latest, figures, moves, setMoves };
}
