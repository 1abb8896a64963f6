import { useEffect, useState, type ReactElement, type RefObject } from "react";
import { Mark } from "../parts/Mark";
import { VERDICT_MARKS, type ShownVerdict } from "../parts/verdict";

/** Whether an element has left the top of the screen. */
function useIsAbove(element: RefObject<HTMLElement | null>): boolean {
  const [isAbove, setAbove] = useState(false);
  useEffect(() => {
    if (!element.current || typeof IntersectionObserver === "undefined") return undefined;
    const watch = new IntersectionObserver(([entry]) => {
      if (entry) setAbove(!entry.isIntersecting && entry.boundingClientRect.bottom <= 0);
    });
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [element]);
  return isAbove;
}

/** The verdict in a few words: what the gallery does decides, dry time stands beside it. */
export function foldedWords(verdict: ShownVerdict): string {
  if (verdict.dry_s === null) return verdict.headline;
  const dry = `dry ${verdict.dry_s.toFixed(1)} s/lap`;
  const dips = verdict.pressure_dip_count ?? null;
  if (dips === null) return dry;
  if (dips === 0) return `pressure holds, ${dry}`;
  return `${dips} pressure dip${dips === 1 ? "" : "s"}, ${dry}`;
}

/** On a phone: the head in one line, once the head itself is scrolled away. */
export function FoldedHead({
  head,
  name,
  verdict,
}: {
  head: RefObject<HTMLElement | null>;
  name: string;
  verdict: ShownVerdict | undefined;
}): ReactElement | null {
  const isAbove = useIsAbove(head);
  if (!isAbove) return null;
  return (
    <button
      type="button"
      data-folded
      title="back to the head"
      onClick={() => window.scrollTo({ top: 0 })}
      className="fixed inset-x-0 top-0 z-10 flex h-11 items-center gap-2 border-b-2 border-ink bg-panel px-4 text-left md:hidden"
    >
      <span className="min-w-0 flex-1 truncate font-figure text-[17px] font-semibold">{name}</span>
      {verdict && (
        <>
          <Mark state={VERDICT_MARKS[verdict.state]} />
          <span className="font-figure text-[15px] font-semibold whitespace-nowrap">
            {foldedWords(verdict)}
          </span>
        </>
      )}
    </button>
  );
}
