import type { ReactElement } from "react";
import type { Schemas } from "../../api/client";
import type { BuildDocument } from "../../api/queries";
import { Button } from "../../parts/Button";
import { RecordParts } from "../Records";
import type { Edits } from "../useEdits";
import { withComponent, type Component } from "./circuit";
import { DropNumbers } from "./DropNumbers";
import { NotYours } from "../NotYours";
import { PortPlace, type PortGiven } from "./PortPlace";
import { SPECS } from "./specs";

type Port = Schemas["PortOut"];

const said = (port: Port): string => {
  if (port.state === "joined") return port.joined_to.join(", ");
  if (port.state === "plugged") return "plugged";
  return port.state === "open" ? "open" : "nothing joined";
};

/** A port that no line ends at: the ends of lines have theirs on Lines. */
const isBare = ({ state }: Port): boolean => state !== "joined";

function PortRow({
  port,
  component,
  threads,
  edits,
}: {
  port: Port;
  component: string;
  threads: Readonly<Record<string, string>>;
  edits: Edits;
}): ReactElement {
  const isShut = port.state === "plugged";
  const ofPort = { component, port: port.key } as const;
  const given = (what: PortGiven) => ({ kind: "set_port" as const, ...ofPort, ...what });
  return (
    <li className="border-b border-hair py-1 text-[14px]">
      <div className="flex items-baseline justify-between gap-3">
        <span className="text-ink-2">{port.words}</span>
        <span className="text-right">
          <span className={port.state === "open" ? "font-semibold text-bad" : ""}>
            {said(port)}
          </span>
          {(isShut || port.state === "open") && (
            <button
              type="button"
              className="ml-2 underline"
              aria-label={`${isShut ? "Unplug" : "Plug"} ${port.words}`}
              onClick={() => edits.act({ kind: "plug_port", ...ofPort, plugged: !isShut })}
            >
              {isShut ? "unplug" : "plug"}
            </button>
          )}
        </span>
      </div>
      {isBare(port) && (
        <details className="pl-3">
          <summary className="text-[13px] text-ink-2">
            {port.thread || "thread not known"}
            {port.at_mm ? "" : ", place not known"}
          </summary>
          <PortPlace
            thread={{ key: port.thread_key, words: port.thread || "not known" }}
            threads={threads}
            faces={port.faces}
            place={port.at_mm}
            onSet={(what) => edits.act(given(what))}
            onType={(what) => edits.typeAct(given(what))}
          />
        </details>
      )}
    </li>
  );
}

/** One component: its figures, what its ports are joined to, and taking it out. */
export function ComponentNumbers({
  document,
  part,
  told,
  threads,
  isInvented,
  edits,
}: {
  document: BuildDocument;
  part: Component;
  /** Its ports as they are joined, once they are told. */
  told: Schemas["ComponentOut"] | undefined;
  /** Threads that a port can show. */
  threads: Readonly<Record<string, string>>;
  /** A template's numbers still. */
  isInvented: boolean;
  edits: Edits;
}): ReactElement {
  const ports = told?.ports ?? [];
  const put = (change: object, words: string): void =>
    edits.replace(withComponent(document, part.id, change), words);
  return (
    <details className="border-b border-hair" data-component={part.id}>
      <summary className="py-1.5 text-[14px]">
        <span className="font-medium">{part.name}</span>
        {isInvented && SPECS[part.kind].length > 0 && <NotYours />}
        {ports.some(({ state }) => state === "open") && (
          <span className="ml-2 text-bad">a port is open</span>
        )}
      </summary>
      <div className="pb-2 pl-3">
        <RecordParts
          record={part}
          path={`circuit.components.${part.id}`}
          specs={[{ kind: "text", key: "name", label: "Name" }, ...SPECS[part.kind]]}
          parts={document.circuit.components}
          onType={edits.type}
          onPut={(next) => put(next, `${next.name} changed`)}
        />
        {"drop" in part && (
          <DropNumbers component={part.id} drop={part.drop ?? null} edits={edits} />
        )}
        {ports.length > 0 && (
          <ul aria-label={`Ports of ${part.name}`}>
            {ports.map((port) => (
              <PortRow
                key={port.key}
                port={port}
                component={part.id}
                threads={threads}
                edits={edits}
              />
            ))}
          </ul>
        )}
        <div className="flex flex-wrap gap-x-4">
          {part.assumed && SPECS[part.kind].length > 0 && (
            <Button
              look="bare"
              className="px-0 underline"
              onClick={() => put({}, `${part.name} is so`)}
            >
              these are mine
            </Button>
          )}
          {told?.can_go && (
            <Button
              look="bare"
              className="px-0 underline"
              onClick={() => edits.act({ kind: "take_out", component: part.id })}
            >
              take {part.name} out
            </Button>
          )}
        </div>
      </div>
    </details>
  );
}
