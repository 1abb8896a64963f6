import type { ReactElement } from "react";
import type { Chain, Line, LineEnd } from "../../api/lines";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { PortPlace } from "../../document/circuit/PortPlace";
import { isBare } from "./sentence";
import type { Lay } from "./useLay";

const TURNS = { "0": "straight", "45": "45°", "90": "90°" } as const;
type Turn = keyof typeof TURNS;

const chainWords = (chain: Chain): string =>
  chain.fittings.map(({ words }) => words).join(", then ") || "screws straight on";

/** One end of a line: the port's thread and place, and what is screwed together there. */
export function EndNumbers({
  which,
  end,
  line,
  threads,
  lay,
}: {
  which: "start" | "end";
  end: LineEnd;
  line: Line;
  threads: Readonly<Record<string, string>>;
  lay: Lay;
}): ReactElement {
  const laidAt = (which === "start" ? line.points[0] : line.points.at(-1))?.at_mm;
  const choose = (chain: Chain): void =>
    lay.lay({ [`${which}_fittings`]: chain.fittings.map(({ key }) => key) });
  return (
    <details className="border-t border-ink px-4 py-2" data-end={which}>
      <summary className="text-[15px]">
        <span className="font-figure font-semibold">
          {which === "start" ? "First" : "Last"} end: {end.name}
        </span>
        <span className="block text-[13px] text-ink-2">
          {end.thread}
          {end.is_usual ? ", as such a part usually has it: look" : ""}
        </span>
      </summary>
      <PortPlace
        thread={{ key: end.thread_key, words: end.thread }}
        threads={threads}
        faces={end.faces}
        place={end.place_mm}
        onSet={(given) => lay.port(end.component, end.port, given)}
        onType={(given) => lay.typePort(end.component, end.port, given)}
      />
      {!end.place_mm && laidAt && (
        <Button
          look="bare"
          className="px-0 underline"
          onClick={() => lay.port(end.component, end.port, { at_mm: laidAt })}
        >
          the port is where the line {which === "start" ? "begins" : "ends"}
        </Button>
      )}
      {line.kind === "hose" && !isBare(line) && (
        <Choice<Turn>
          label="Hose end"
          value={String(end.hose_end_deg) as Turn}
          choices={TURNS}
          onChoose={(turn) => lay.lay({ [`${which}_deg`]: Number(turn) })}
        />
      )}
      <p className="pt-1 text-[14px]">
        {end.chain ? chainWords(end.chain) : "No chain fits: needs a made part."}
        <span className="block text-[13px] text-ink-2">
          Made tight {end.seals}.{end.is_chosen ? " Chosen by hand." : ""}
          {end.torque &&
            ` Nut on a steel end ${end.torque}, from memory; an aluminium one by its maker, about half.`}
        </span>
      </p>
      {end.others.length > 0 && (
        <ul aria-label={`Other chains at the ${end.name}`} className="text-[14px]">
          {end.others.map((chain) => (
            <li
              key={chainWords(chain)}
              className="flex justify-between gap-2 border-t border-hair py-1"
            >
              <span>{chainWords(chain)}</span>
              <Button look="bare" className="px-0 underline" onClick={() => choose(chain)}>
                take it
              </Button>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}
