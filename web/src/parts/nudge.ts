/** A typed figure one step up or down in its last decimal place; null when it is no plain number. */
export function nudged(typed: string, steps: number): string | null {
  const match = /^\s*(-?\d+(?:\.(\d+))?)\s*([^\d/\s][^\d/]*)?$/.exec(typed);
  if (!match?.[1]) return null;
  const decimals = match[2]?.length ?? 0;
  const next = Number(match[1]) + steps * 10 ** -decimals;
  const unit = match[3] ? ` ${match[3]}` : "";
  return `${next.toFixed(decimals)}${unit}`;
}
