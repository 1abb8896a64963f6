import type { ReactElement } from "react";
import type { Schemas } from "../../api/client";
import type { BuildDocument } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useSettings } from "../../parts/settings";
import { shownAs } from "../../parts/units";
import { RecordParts, type Spec } from "../Records";
import type { Edits } from "../useEdits";
import { withRun, type LineKind, type Run } from "./circuit";
import { NotYours } from "../NotYours";
import { LINE_WORDS, LINES, SERVICES } from "./specs";

const NEW_LINES: Record<LineKind, Run["line"]> = {
  open: { kind: "open" },
  passage: { kind: "passage", count: 1 },
  hose: { kind: "hose", sleeve: false },
  hard_line: { kind: "hard_line", bends: [], sleeve: false },
};

/** What is made of other figures: shown, not typed. */
function Derived({ told }: { told: Schemas["LineRunOut"] | undefined }): ReactElement | null {
  const { system, units } = useSettings();
  const bore = told?.bore_mm != null ? shownAs(units, "bore_mm", system, told.bore_mm, 1) : null;
  const full =
    told?.contents_l != null ? shownAs(units, "contents_l", system, told.contents_l, 1) : null;
  if (!bore && !full) return null;
  return (
    <p className="py-1 text-[13px] text-ink-2">
      {bore && `Bore ${bore.figure} ${bore.unit}. `}
      {full && `Full it holds ${full.figure} ${full.unit}.`}
    </p>
  );
}

/** One run: what it carries from where to where, and what it is made of. */
export function RunNumbers({
  document,
  run,
  told,
  edits,
}: {
  document: BuildDocument;
  run: Run;
  told: Schemas["LineRunOut"] | undefined;
  edits: Edits;
}): ReactElement {
  const { line } = run;
  const put = (change: Partial<Run>, words: string): void =>
    edits.replace(withRun(document, run.id, change), words);
  // a run with a route has that route's length
  const specs: readonly Spec[] =
    run.route.length > 0
      ? LINES[line.kind].filter(({ key }) => key !== "length_mm")
      : LINES[line.kind];
  return (
    <details className="border-b border-hair" data-run={run.id}>
      <summary className="py-1.5 text-[14px]">
        <span className="font-medium">{run.name}</span>{" "}
        <span className="text-ink-2">{SERVICES[run.service]}</span>
        {run.assumed && line.kind !== "open" && <NotYours />}
      </summary>
      <div className="pb-2 pl-3">
        {told && (
          <p className="py-1 text-[14px]">
            From {told.start} to {told.end}.
          </p>
        )}
        <Choice
          label="Made of"
          value={line.kind}
          choices={LINE_WORDS}
          onChoose={(kind) => put({ line: NEW_LINES[kind] }, `${run.name}: ${LINE_WORDS[kind]}`)}
        />
        <RecordParts
          record={line}
          path={`circuit.runs.${run.id}.line`}
          specs={specs}
          onType={edits.type}
          onPut={(next) => put({ line: next }, `${run.name} changed`)}
        />
        <Derived told={told} />
        {run.assumed && (
          <Button
            look="bare"
            className="px-0 underline"
            onClick={() => put({}, `${run.name} is so`)}
          >
            these are mine
          </Button>
        )}
      </div>
    </details>
  );
}
