import type { ReactElement } from "react";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import { AskFigures } from "../AskFigures";
import { figuresOf, type Edits } from "../useEdits";

interface Drop {
  drop_bar: number;
  flow_l_min: number;
}

const FIELDS = [
  ["drop_bar", "Takes, hot and clean"],
  ["flow_l_min", "at a flow of"],
] as const;
/** What stands in empty fields: what is typed says its unit. */
const LIKE = { metric: ["0.4 bar", "40 L/min"], us: ["6 psi", "10 gpm"] } as const;

/** What a filter or a cooler takes of the pressure, as its maker gives it: two figures or none. */
export function DropNumbers({
  component,
  drop,
  edits,
}: {
  component: string;
  drop: Drop | null;
  edits: Edits;
}): ReactElement {
  const { system } = useSettings();
  const path = `circuit.components.${component}.drop`;
  if (drop)
    return (
      <>
        {FIELDS.map(([key, label]) => (
          <EditFigure
            key={key}
            label={label}
            field={`${path}.${key}`}
            value={drop[key]}
            onType={(value) => edits.type([`${path}.${key}`], value)}
          />
        ))}
        <Button
          look="bare"
          className="px-0 underline"
          onClick={() => edits.act({ kind: "figures", figures: [{ field: path, value: null }] })}
        >
          what it takes is not known
        </Button>
      </>
    );
  return (
    <AskFigures
      name="What it takes of the pressure"
      asked={FIELDS.map(([key, label], n) => ({ key, label, like: LIKE[system][n] }))}
      words="Set what it takes"
      onAsk={(typed) => edits.typeAct(figuresOf(path, typed))}
    />
  );
}
