import type { FlatDrawing } from "../../api/drawing";

/** The two holes that are farthest apart, by their numbers; null with fewer than two. */
export function farthestBolts(
  holes: FlatDrawing["holes"],
): { between: readonly [number, number]; mm: number } | null {
  let found: { between: readonly [number, number]; mm: number } | null = null;
  holes.forEach((one, first) =>
    holes.forEach((other, second) => {
      const mm = Math.hypot(one.x_mm - other.x_mm, one.y_mm - other.y_mm);
      if (first < second && mm > (found?.mm ?? 0)) found = { between: [first, second], mm };
    }),
  );
  return found;
}
