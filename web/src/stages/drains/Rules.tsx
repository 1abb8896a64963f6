import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import type { DrainsStage } from "../../api/drains";
import { useBuildView } from "../../document/BuildContext";
import { Mark } from "../../parts/Mark";
import { MendButton, type Mend } from "../../parts/MendButton";
import { useSettings } from "../../parts/settings";
import { InUnits } from "../../parts/InUnits";

const CAUTION =
  "Oil on a hot turbo burns: keep lines clear of the exhaust, sleeve them, and check for leaks hot before the car goes out. A thin wall is not tapped: a through-fitting with a nut inside and sealing washers, or a welded boss, set off so that the pan's bolts stay reachable; with the pan on, the nut goes in through another opening. Drilling leaves swarf: wash and wipe it out before anything is closed. Class rules and the turbo maker's own limits come first.";

/** What the trade's rules say of drains and breathing, trouble first. */
export function Rules({ stage }: { stage: DrainsStage }): ReactElement {
  const { edit } = useBuildView();
  const { system } = useSettings();
  const [fault, setFault] = useState<string | null>(null);

  async function mend(act: Mend): Promise<void> {
    setFault(null);
    try {
      await edit.mutateAsync({ kind: "act", act, system });
    } catch (refused) {
      setFault(wordsOf(refused));
    } finally {
      edit.reset();
    }
  }

  return (
    <section aria-labelledby="drain-rules" className="px-4 pt-2 pb-4">
      <h2 id="drain-rules" className="font-figure text-[18px] font-semibold">
        Rules
      </h2>
      {fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault}
        </p>
      )}
      <ul>
        {stage.checks.map((check) => (
          <li key={`${check.wanted} ${check.words}`} className="border-b border-hair py-2">
            <p className="flex items-start gap-2 text-[14px]">
              <Mark state={check.state} />
              <span className="min-w-0 flex-1 first-letter:uppercase">
                <InUnits words={check.words} />.{" "}
                {check.mend && <MendButton mend={check.mend} onMend={(act) => void mend(act)} />}
              </span>
            </p>
            <p className="pl-[26px] text-[13px] text-ink-2">
              {check.wanted} ({check.source}).
            </p>
          </li>
        ))}
      </ul>
      <h3 className="pt-3 font-figure text-[16px] font-semibold">Guesses used</h3>
      <ul>
        {stage.guesses.map((guess) => (
          <li key={guess.key} className="border-b border-hair py-1 text-[14px]">
            <span className="flex justify-between gap-2">
              <span className="min-w-0 flex-1">{guess.words}</span>
              <span className="shrink-0 font-figure font-semibold">
                {guess.likely} ({guess.low} to {guess.high}) {guess.unit}
              </span>
            </span>
            <span className="text-[13px] text-ink-2">{guess.source}</span>
          </li>
        ))}
      </ul>
      <p className="flex items-start gap-2 pt-3 text-[13px] text-ink-2">
        <Mark state="caution" size={16} /> <span className="min-w-0 flex-1">{CAUTION}</span>
      </p>
    </section>
  );
}
