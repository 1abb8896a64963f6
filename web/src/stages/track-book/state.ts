import { useBook, type Due } from "../../api/book";
import { useBuildView } from "../../document/BuildContext";
import type { StageState } from "../../document/stage";
import { useSettings } from "../../parts/settings";

const NONE: readonly Due[] = [];

/** What is overdue, the most pressing first. */
export function useOverdue(): readonly Due[] {
  const { build, isCalm } = useBuildView();
  const book = useBook(build, useSettings().system, isCalm).data?.book;
  return book ? book.due.filter(({ state }) => state === "overdue") : NONE;
}

/** What is due, in two words. */
export function useBookState(): StageState {
  const { build, isCalm } = useBuildView();
  const book = useBook(build, useSettings().system, isCalm).data?.book;
  if (!book) return { mark: "nothing", word: "" };
  if (book.sessions.length === 0) return { mark: "nothing", word: "none yet" };
  const over = book.due.filter(({ state }) => state === "overdue").length;
  if (over > 0) return { mark: "bad", word: `${over} overdue` };
  const due = book.due.filter(({ state }) => state === "due").length;
  return due > 0
    ? { mark: "caution", word: `${due} due` }
    : { mark: "good", word: `${book.hours} h` };
}
