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
  const { making, made, setMade, picked, pick, fault, retry } = useMake();
  if (!making || !picked)
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
      <Patterns making={making} picked={picked} onPick={pick} />
      {column(
        <MakeColumn making={making} made={made} picked={picked} fault={fault} onMade={setMade} />,
      )}
    </>
  );
}
