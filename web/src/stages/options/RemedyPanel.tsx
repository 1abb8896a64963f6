import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import {
  useApplyRemedy,
  useRemedy,
  type OptionRow,
  type Options,
  type Study,
} from "../../api/options";
import { useBuildView } from "../../document/BuildContext";
import { Button } from "../../parts/Button";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { InUnits, useSay } from "../../parts/InUnits";
import { Overfill } from "./Overfill";
import { OverLap } from "./OverLap";
import { SearchPanel, searchFor } from "./SearchPanel";
import { TypeOver } from "./TypeOver";
import { markOf, stateWords } from "./RemedyTable";

function Proof({ options }: { options: Options }): ReactElement | null {
  const { proofs, is_provisional: isProvisional } = options.choice;
  if (proofs.length === 0) return null;
  return (
    <section className="mt-2">
      <h3 className="font-figure text-[15px] font-semibold">
        Proof{isProvisional ? ", still being run" : ""}
      </h3>
      <ul>
        {proofs.map((each) => (
          <li
            key={each.key}
            className="flex items-center gap-2 border-b border-hair py-0.5 text-[14px]"
          >
            <Mark state={each.keeps ? "good" : "bad"} size={14} />
            <span className="min-w-0 flex-1">
              <InUnits words={each.words} />
            </span>
            <span className="font-figure font-semibold">
              {each.keeps ? "holds" : "does not"}
              {each.share === null ? "" : `, ${Math.round(100 * each.share)} %`}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-[13px] text-ink-2">
        Share of the usual gallery pressure at the worst moment; below{" "}
        {Math.round(100 * options.dip_share)} % is a dip.
      </p>
    </section>
  );
}

function Changes({ study, row }: { study: Study; row: OptionRow }): ReactElement {
  const { build } = useBuildView();
  const { system } = useSettings();
  const [open, setOpen] = useState(false);
  const remedy = useRemedy(build, study.id, open ? row.key : null, system);
  return (
    <details
      className="mt-2 border-t border-hair pt-1"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="py-0.5 text-[14px]">What changes in the build</summary>
      {remedy.error && <p className="text-[14px] text-bad">{wordsOf(remedy.error)}</p>}
      {remedy.isFetching && <p className="text-[14px] text-ink-2">Reading…</p>}
      <ul>
        {remedy.data?.differences.map((each) => (
          <li key={each.words} className="border-b border-hair py-0.5 text-[14px]">
            <InUnits words={each.words} />
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What can be done with a remedy: make it a revision of the build. */
function Apply({ study, row }: { study: Study; row: OptionRow }): ReactElement {
  const { build, go } = useBuildView();
  const apply = useApplyRemedy(build);
  if (apply.isSuccess)
    return (
      <Notice kind="good" title="Applied and named">
        <p>The build stands so now. Its run in moving oil is under way.</p>
        <Button className="mt-1" onClick={() => go("slosh")}>
          See it slosh
        </Button>
      </Notice>
    );
  return (
    <div className="mt-3">
      <Button
        look={row.standing.state === "holds" ? "main" : "plain"}
        disabled={apply.isPending || !study.is_current || study.state !== build.state}
        onClick={() => apply.mutate(row.key)}
      >
        Make it a revision
      </Button>
      {study.state !== build.state && (
        <p className="mt-1 text-[13px] text-ink-2">
          The build has moved on since; try remedies on it as it stands.
        </p>
      )}
      {apply.error && (
        <p role="alert" className="mt-1 text-[14px] text-bad">
          {wordsOf(apply.error)}
        </p>
      )}
    </div>
  );
}

/** The remedy that is picked: what it came to, what it takes, and what can be done with it. */
export function RemedyPanel({
  study,
  options,
  row,
}: {
  study: Study;
  options: Options;
  row: OptionRow;
}): ReactElement {
  const isChosen = row.key === options.choice.key;
  const { standing, needs } = row;
  const searched = searchFor(row.key);
  const say = useSay();
  return (
    <section aria-label={`Remedy ${row.letter}`} className="py-3">
      <h2 className="flex items-start gap-2 font-figure text-[18px] leading-tight font-semibold">
        <Mark state={row.told ? markOf(standing) : "nothing"} />
        {isChosen
          ? `${row.letter} holds, and is the smallest`
          : `${row.letter} ${row.told ? stateWords(standing) : "is not told"}`}
      </h2>
      <p className="mt-1 text-[15px]">{say(isChosen ? options.choice.words : standing.words)}</p>
      {standing.lies && <p className="mt-1 text-[14px]">{say(standing.lies)}</p>}
      {standing.mouth_dips > 0 && standing.state === "holds" && (
        <p className="mt-1 text-[14px]">
          <span className="font-semibold">Caution:</span> the mouth runs dry {standing.mouth_dips}{" "}
          {standing.mouth_dips === 1 ? "time" : "times"} a lap, which the gallery does not feel.
        </p>
      )}
      {row.worse && (
        <p className="mt-1 text-[14px]">
          <span className="font-semibold">Cannot be the smallest:</span> {say(row.worse)}.
        </p>
      )}
      {row.note && <p className="mt-1 text-[14px] text-ink-2">{row.note}</p>}
      <p className="mt-1 text-[13px] text-ink-2">
        {row.words ? `${row.words}. ` : ""}
        {standing.rung_words && `Figures: ${standing.rung_words}, quick cells`}
        {standing.starts > 0 && `, ${standing.starts} starts`}
        {standing.pan_l !== null &&
          say(`; ${standing.pan_l.toFixed(1)} L in the pan as the lap begins`)}
        {standing.rung_words && "."}
        {row.crank_mm !== null &&
          say(` Standing oil ${row.crank_mm.toFixed(0)} mm below the crank.`)}
      </p>
      {isChosen && <Proof options={options} />}
      {needs && <TypeOver needs={needs} />}
      {row.group === "oil" && <Overfill />}
      {searched && <SearchPanel key={searched} what={searched} />}
      {row.told && row.applies && <OverLap key={`lap ${row.key}`} study={study} row={row} />}
      <Changes key={row.key} study={study} row={row} />
      <Apply key={`apply ${row.key}`} study={study} row={row} />
    </section>
  );
}
