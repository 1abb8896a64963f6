import type { ReactElement } from "react";
import type { Schemas } from "../api/client";
import { useSettings } from "./settings";
import { exactlyShown } from "./units";

export type Mend = NonNullable<Schemas["CheckOut"]["mend"]>;

/** What the button of each act that mends is called. */
function callOf(mend: Mend, said: (value: number, field?: string) => string): string {
  switch (mend.kind) {
    case "turn_gate":
      return "Turn it round";
    case "carry_to_wall":
      return "Carry it to the wall";
    case "drain_turbo":
      return "Give it a stage of its own";
    case "tune_drain":
      return mend.dash != null
        ? `Make it size ${mend.dash}`
        : `Restrict to ${said(Number(mend.restrictor_mm))}`;
    case "figures": {
      const [figure] = mend.figures;
      const name = figure?.field.split(".").at(-1) ?? "";
      const value = Number(figure?.value ?? 0);
      return `${SET[name] ?? "Set it to"} ${said(value, name)}`;
    }
  }
}

const SET: Readonly<Record<string, string>> = {
  gasket_mm: "Cut its hole to",
  opening_mm: "Open the breather to",
  displacement_cm3: "Take a stage of",
};

/** The act that mends what a check found. */
export function MendButton({
  mend,
  onMend,
}: {
  mend: Mend;
  onMend: (mend: Mend) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const said = (value: number, field = "at_mm"): string => {
    const { figure, unit } = exactlyShown(units, field, system, value);
    return `${figure} ${unit}`;
  };
  return (
    <button type="button" className="font-semibold underline" onClick={() => onMend(mend)}>
      {callOf(mend, said)}
    </button>
  );
}
