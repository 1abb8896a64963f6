import type { ReactElement } from "react";
import { wordsOf, type Schemas } from "../../api/client";
import { useCircuit } from "../../api/queries";
import { Choice } from "../../parts/Choice";
import { FigureGroup } from "../../parts/FigureGroup";
import { Mark } from "../../parts/Mark";
import { Notice } from "../../parts/Notice";
import { InUnits } from "../../parts/InUnits";
import { useBuildView } from "../BuildContext";
import type { Edits } from "../useEdits";
import { ComponentNumbers } from "./ComponentNumbers";
import { FitForms } from "./FitForms";
import { Guesses } from "./Guesses";
import { JoinPorts } from "./JoinPorts";
import { RunNumbers } from "./RunNumbers";

/** Whether the circuit checks out, in words; each fault names its part. */
function CheckedOut({ told }: { told: Schemas["CircuitOut"] }): ReactElement {
  return (
    <ul aria-label="Checks on the circuit" className="py-1">
      {told.checks.map((check) => (
        <li
          key={`${check.field} ${check.words}`}
          className="flex gap-2 py-1 text-[14px]"
          title={`${check.wanted} (${check.source})`}
        >
          <Mark state={check.state} />
          <span>
            <InUnits words={check.words} />.
          </span>
        </li>
      ))}
    </ul>
  );
}

/** All that oil goes through: components, lines, what can be fitted, and whether it checks out. */
export function CircuitNumbers({ edits }: { edits: Edits }): ReactElement {
  const { build } = useBuildView();
  const { document } = build;
  const { data: told, error } = useCircuit(build);
  const { components, runs } = document.circuit;
  const parts = new Map(told?.components.map((part) => [part.id, part]));
  const lines = new Map(told?.runs.map((run) => [run.id, run]));
  const pumpIsInvented = build.invented.includes("pump");
  return (
    <FigureGroup title="Oil circuit">
      {error && !told ? (
        <Notice kind="bad" title="The circuit could not be looked through">
          {wordsOf(error)}
        </Notice>
      ) : told ? (
        <CheckedOut told={told} />
      ) : (
        <p className="py-1 text-[14px] text-ink-2">Looking through the circuit…</p>
      )}
      <p className="py-1 text-[13px] text-ink-2">
        What it holds counts in every forecast; moving oil runs with all of it but gas, vents and
        catch cans, which Drains works out after a run.
        {told?.is_dry && " Stages, tank and pump have their drawing and sizes on Dry sump."}
      </p>
      <Choice
        label="The gauge sits at"
        value={document.circuit.gauge}
        choices={{
          "": "not said",
          ...Object.fromEntries(components.map(({ id, name }) => [id, name])),
        }}
        onChoose={(value) =>
          edits.act({ kind: "figures", figures: [{ field: "circuit.gauge", value }] })
        }
      />
      <Guesses />
      <FitForms />
      {told && <JoinPorts told={told} edits={edits} />}
      {components.map((part) => (
        <ComponentNumbers
          key={part.id}
          document={document}
          part={part}
          told={parts.get(part.id)}
          threads={told?.threads ?? {}}
          isInvented={part.assumed || (part.kind === "pressure_stage" && pumpIsInvented)}
          edits={edits}
        />
      ))}
      <details className="border-b border-hair">
        <summary className="py-1.5 text-[14px] font-medium">Lines: {runs.length}</summary>
        <div className="pl-3">
          {runs.map((run) => (
            <RunNumbers
              key={run.id}
              document={document}
              run={run}
              told={lines.get(run.id)}
              edits={edits}
            />
          ))}
        </div>
      </details>
    </FigureGroup>
  );
}
