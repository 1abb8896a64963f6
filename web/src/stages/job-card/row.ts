/** A line of the job's figures: its name left, what is chosen right. */
export const row =
  "flex items-center justify-between gap-3 border-b border-hair py-1 text-[14px] text-ink-2";
