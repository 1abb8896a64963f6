import type { ReactElement } from "react";

export type BenchPart = "done" | "now" | "left" | "bad";

const FILLS: Readonly<Record<BenchPart, string>> = {
  done: "var(--good)",
  now: "var(--ink)",
  left: "var(--hair)",
  bad: "var(--bad)",
};

/** On a phone under the car: whose job, how far, and its pages; nothing on a wide screen. */
export function BenchHead<Page extends string>({
  name,
  word,
  parts,
  pages,
  page,
  onPage,
}: {
  name: string;
  word: string;
  /** Each part of the way, in order. */
  parts: readonly BenchPart[];
  pages: Readonly<Record<Page, string>>;
  page: Page;
  onPage: (page: Page) => void;
}): ReactElement {
  const wide = 100 / Math.max(1, parts.length);
  return (
    <header className="border-b-2 border-ink bg-panel lg:hidden">
      <p className="flex justify-between gap-3 px-4 pt-2 font-figure text-[17px] font-semibold">
        <span className="min-w-0 truncate">{name}</span>
        <span className="whitespace-nowrap">{word}</span>
      </p>
      <svg
        width="100%"
        height="8"
        className="block px-4 pt-1"
        aria-hidden="true"
        preserveAspectRatio="none"
        viewBox="0 0 100 8"
      >
        {parts.map((part, at) => (
          <rect
            key={at}
            x={at * wide}
            width={wide * (parts.length > 50 ? 0.92 : 0.86)}
            height="8"
            fill={FILLS[part]}
          />
        ))}
      </svg>
      <div role="tablist" aria-label="Pages" className="mt-1 flex">
        {(Object.entries(pages) as [Page, string][]).map(([key, words]) => (
          <button
            key={key}
            type="button"
            role="tab"
            aria-selected={page === key}
            onClick={() => onPage(key)}
            className={`min-h-10 flex-1 font-figure text-[16px] font-semibold ${page === key ? "bg-ink text-paper" : ""}`}
          >
            {words}
          </button>
        ))}
      </div>
    </header>
  );
}
