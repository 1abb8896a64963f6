import type { ReactElement } from "react";
import { Waiting } from "../../../parts/Notice";
import { MakeColumn } from "./MakeColumn";
import { Patterns } from "./Patterns";
import { useMake } from "./useMake";

/** The pan as flat patterns, and how it is made of them; `column` puts the second in its place. */
export function MakePage({
  column,
}: {
  column: (content: ReactElement) => ReactElement;
}): ReactElement {
  const { making, picked, pick, fault, retry } = useMake();
  if (!making)
    return (
      <>
        <div className="min-w-0 flex-1">
          <Waiting error={fault} what="the patterns" onRetry={retry} />
        </div>
        {column(<p className="px-4 py-3 text-[14px] text-ink-2">No pattern yet.</p>)}
      </>
    );
  return (
    <>
      {picked ? (
        <Patterns making={making} picked={picked} onPick={pick} />
      ) : (
        <section aria-label="Flat patterns" className="min-w-0 flex-1 px-6 py-4">
          <h1 className="font-figure text-[22px] leading-7 font-semibold">Nothing is cut flat</h1>
          <p className="max-w-[52ch] py-2">{making.fault}.</p>
        </section>
      )}
      {column(<MakeColumn making={making} picked={picked ?? null} />)}
    </>
  );
}
