import { useMemo } from "react";
import { useSection } from "../../api/queries";
import type { CutAt, Drawing } from "../../drawing/views";

/** A drawing of a state of a build with its sections cut where they are wanted. */
export function useCut<Known extends Drawing | undefined>(
  drawing: Known,
  buildId: number | null,
  state: number | null,
  cut: CutAt,
): Known {
  const side = useSection(buildId, state, "side", cut.side);
  const front = useSection(buildId, state, "front", cut.front);
  return useMemo(
    () => drawing && { ...drawing, side: side ?? drawing.side, front: front ?? drawing.front },
    [drawing, side, front],
  );
}
