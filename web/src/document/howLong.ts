/** A stretch of time as one says it. */
export function howLong(seconds: number): string {
  if (seconds < 1) return "under 1 s";
  if (seconds < 90) return `about ${Math.round(seconds)} s`;
  if (seconds < 5400) return `about ${Math.round(seconds / 60)} min`;
  return `about ${(seconds / 3600).toFixed(1)} h`;
}
