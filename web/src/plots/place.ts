import type { Schemas } from "../api/client";

type Corner = Pick<Schemas["CornerOut"], "name" | "number" | "hand" | "start_s" | "end_s">;

/** A moment of a lap as a headline begins: the corner that it is in, if it is in one. */
export function placeWords(
  lap: { corners: readonly Corner[] } | null | undefined,
  time: number,
): string {
  const corner = lap?.corners.find((each) => each.start_s <= time && time <= each.end_s);
  const at = `${time.toFixed(1)} s`;
  return corner
    ? `${corner.name ?? `Corner ${corner.number}`}, ${corner.hand}, at ${at}`
    : `At ${at}`;
}
