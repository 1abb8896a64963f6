import { useState, type ReactElement } from "react";
import type { Line } from "../../api/lines";
import { ActForm } from "../../document/circuit/FitForms";
import { maybe, typed, type Asked, type Fit } from "../../document/circuit/fits";
import type { Lay } from "./useLay";

/** Asked only of parts, or valves, that have it. */
const only = (asked: Asked, key: string, ...values: string[]): Asked =>
  ({ ...asked, only: [key, ...values] }) as Asked;

/** What is asked of a part that comes into a line: where, and its own figures. */
export function fitOf(line: Line): Fit {
  const bends = line.points.slice(1, -1).map((_, at) => at + 1);
  return {
    words: `A part in line ${line.number}`,
    note: "The line is cut there. At a bend both pieces keep their way; else they have no length until they are measured or laid. A tee's branch is plugged until a line is joined to it.",
    caution:
      "Out of the cabin or through sheet metal only by a bulkhead fitting or a grommet. Grit that falls in as it is cut goes to the bearings: catch it, cap it, wash it through.",
    asked: [
      {
        ask: "choice",
        key: "part",
        label: "What",
        choices: [
          ["bulkhead", "bulkhead fitting"],
          ["tee", "tee"],
          ["shut_off_valve", "valve"],
          ["check_valve", "check valve"],
          ["restrictor", "restrictor"],
          ["sender_tee", "tapping for a sender"],
        ],
      },
      {
        ask: "choice",
        key: "at_bend",
        label: "Where",
        choices: [
          ["", "not known yet"],
          ...bends.map((each) => [`${each}`, `in place of bend ${each}`] as const),
        ],
      },
      only(typed("bore_mm", "Bore", "2 mm", "2 mm"), "part", "restrictor"),
      {
        ask: "choice",
        key: "worked",
        label: "Worked",
        choices: [
          ["by_hand", "by hand"],
          ["electric", "by current"],
        ],
        only: ["part", "shut_off_valve"],
      },
      only(maybe("opens_bar", "Lets oil by from"), "part", "check_valve"),
    ],
  };
}

/** A part put into the picked line. */
export function PutInLine({ line, lay }: { line: Line; lay: Lay }): ReactElement {
  const [isOpen, setOpen] = useState(false);
  return (
    <details
      className="border-t border-ink px-4 py-2"
      open={isOpen}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="py-0.5 font-figure text-[16px] font-semibold">Put a part into it</summary>
      {isOpen && (
        <ActForm
          key={line.points.length}
          kind="put_in_line"
          verb="Put it in"
          fit={fitOf(line)}
          onAct={async (act) => {
            await lay.putIn(act);
            setOpen(false);
          }}
        />
      )}
    </details>
  );
}
