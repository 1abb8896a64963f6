import type { ReactElement } from "react";
import { FIRST_STANCE, STANCES, type Stance } from "./camera";
import type { CutWay } from "./model";

/** How the pan is looked at: from where, and which way it is cut. */
export interface PanView {
  stance: Stance;
  way: CutWay;
}

export const FIRST_VIEW: PanView = { stance: FIRST_STANCE, way: "along" };

function Choice({
  legend,
  name,
  choices,
}: {
  legend: string;
  name: string;
  choices: readonly { label: string; chosen: boolean; run: () => void }[];
}): ReactElement {
  return (
    <fieldset className="flex items-center gap-2">
      <legend className="sr-only">{legend}</legend>
      <span aria-hidden="true" className="text-ink-2">
        {name}
      </span>
      {choices.map(({ label, chosen, run }) => (
        <button
          key={label}
          type="button"
          aria-pressed={chosen}
          aria-label={`${legend}: ${label}`}
          onClick={run}
          className={`border-b-2 px-0.5 ${chosen ? "border-ink font-semibold" : "border-transparent text-ink-2"}`}
        >
          {label}
        </button>
      ))}
    </fieldset>
  );
}

/** From where the pan is seen, and which way it is cut. */
export function ViewChoices({
  view,
  onView,
}: {
  view: PanView;
  onView: (change: (view: PanView) => PanView) => void;
}): ReactElement {
  return (
    <>
      <Choice
        legend="Seen from"
        name="from"
        choices={STANCES.map(([label, stance]) => ({
          label,
          chosen: view.stance.turn === stance.turn && view.stance.lift === stance.lift,
          run: () => onView((now) => ({ ...now, stance })),
        }))}
      />
      <Choice
        legend="Cut"
        name="cut"
        choices={WAYS.map(([way, label]) => ({
          label,
          chosen: view.way === way,
          run: () => onView((now) => ({ ...now, way })),
        }))}
      />
    </>
  );
}

const WAYS: [CutWay, string][] = [
  ["along", "along"],
  ["across", "across"],
  ["none", "whole"],
];
