import { useState, type ReactElement } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import type { Edits } from "../useEdits";
import type { Run } from "./circuit";
import { SERVICES } from "./specs";

type Told = Schemas["CircuitOut"];
type Port = Schemas["PortOut"];
interface Free {
  component: string;
  port: Port;
}

const SIZES = { "10": "10", "4": "4", "6": "6", "8": "8", "12": "12", "16": "16", "20": "20" };

/** Ports that one more line can be joined to, with what they are of; by a key. */
export function freePorts(told: Told): Map<string, Free & { words: string }> {
  const all = told.components.flatMap(({ id, name, ports }) =>
    ports
      .filter(({ state, takes_many }) => state !== "joined" || takes_many)
      .map(
        (port) =>
          [`${id} ${port.key}`, { component: id, port, words: `${name}: ${port.words}` }] as const,
      ),
  );
  return new Map(all);
}

/** What can flow from one port to another. */
const services = (from: Port, to: Port): Run["service"][] =>
  from.services.filter((each) => to.services.includes(each));

const wordsOf = (ports: readonly (readonly [string, { words: string }])[]) =>
  Object.fromEntries(ports.map(([key, { words }]) => [key, words] as const));

/** One more line between two ports that are free: what no whole set covers. */
export function JoinPorts({ told, edits }: { told: Told; edits: Edits }): ReactElement | null {
  const [chosen, setChosen] = useState({ from: "", to: "", service: "", dash: "10" });
  const free = freePorts(told);
  const rows = [...free];
  const goes = (start: Free, end: Free): boolean =>
    start.component !== end.component &&
    end.port.way !== "out" &&
    services(start.port, end.port).length > 0;
  const starts = rows.filter(
    ([, start]) => start.port.way !== "in" && rows.some(([, end]) => goes(start, end)),
  );
  const from = starts.find(([key]) => key === chosen.from) ?? starts[0];
  if (!from) return null;
  const ends = rows.filter(([, end]) => goes(from[1], end));
  const to = ends.find(([key]) => key === chosen.to) ?? ends[0];
  if (!to) return null;
  const carried = services(from[1].port, to[1].port);
  const service = carried.find((each) => each === chosen.service) ?? carried[0];
  if (!service) return null;
  const set = (change: Partial<typeof chosen>): void => setChosen({ ...chosen, ...change });
  return (
    <details className="border-b border-hair">
      <summary className="py-1.5 text-[14px] font-medium">One more line</summary>
      <div className="border-l-2 border-ink pb-3 pl-3">
        <p className="py-1 text-[13px] text-ink-2">
          Between two ports that are free; a plug there comes out. A tee or a valve is put into a
          line on Lines.
        </p>
        <Choice
          label="From"
          value={from[0]}
          choices={wordsOf(starts)}
          onChoose={(key) => set({ from: key })}
        />
        <Choice
          label="To"
          value={to[0]}
          choices={wordsOf(ends)}
          onChoose={(key) => set({ to: key })}
        />
        <Choice<string>
          label="Carries"
          value={service}
          choices={Object.fromEntries(carried.map((each) => [each, SERVICES[each]] as const))}
          onChoose={(key) => set({ service: key })}
        />
        <Choice
          label="Hose, size"
          value={chosen.dash as keyof typeof SIZES}
          choices={SIZES}
          onChoose={(dash) => set({ dash })}
        />
        <Button
          look="main"
          className="mt-2"
          onClick={() =>
            edits.act({
              kind: "join_ports",
              start: from[1].component,
              start_port: from[1].port.key,
              end: to[1].component,
              end_port: to[1].port.key,
              service,
              made_of: "hose",
              dash: Number(chosen.dash) as 10,
            })
          }
        >
          Join them
        </Button>
      </div>
    </details>
  );
}
