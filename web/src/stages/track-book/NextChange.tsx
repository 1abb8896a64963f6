import type { ReactElement } from "react";
import { Link } from "react-router";
import type { Book } from "../../api/book";

/** Where the next step is taken; the others are done at the car. */
const LEADS = {
  seal: { to: "job-card", words: "Open Job card" },
  options: { to: "options", words: "Open Options" },
  forecast: { to: "slosh", words: "Open Slosh" },
} as const;

/** The one thing to change before the next session, and what would tell most. */
export function NextChange({
  next,
  buildId,
}: {
  next: NonNullable<Book["next"]>;
  buildId: number;
}): ReactElement {
  const lead = next.what in LEADS ? LEADS[next.what as keyof typeof LEADS] : null;
  return (
    <section aria-label="Change one thing next" className="border-t border-ink p-4 text-[15px]">
      <h2 className="font-figure text-[16px] font-semibold">Change one thing next</h2>
      <p className="pt-1 font-figure text-[20px] leading-tight font-semibold">{next.title}.</p>
      <p className="pt-1">{next.why}</p>
      <p className="pt-1 text-[14px] text-ink-2">What would tell: {next.measure}</p>
      {lead && (
        <Link
          to={`/builds/${buildId}/${lead.to}`}
          className="mt-2 inline-flex min-h-10 items-center border border-ink px-3 font-semibold"
        >
          {lead.words}
        </Link>
      )}
    </section>
  );
}
