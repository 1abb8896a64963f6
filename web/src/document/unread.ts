import type { Forecast } from "./BuildContext";

/** What stands in a figure's place while there is no forecast to tell it from; null: there is one. */
export function unread({ settled, judged }: Forecast): string | null {
  if (settled.data || judged) return null;
  return settled.error ? "not told" : "being read";
}
