import { useState } from "react";
import { useSlosh, type BuildOut } from "../api/queries";
import { useFigures, useLatest } from "../api/runs";
import type { Forecast } from "./BuildContext";
import { withMoving } from "./moving";

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
  return { settled, shown, latest, figures, moves, setMoves };
}
