import { useState, type ReactElement } from "react";
import { wordsOf } from "../../api/client";
import { Button } from "../../parts/Button";
import { EditFigure } from "../../parts/EditFigure";
import { useSettings } from "../../parts/settings";
import type { Edits } from "../useEdits";

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
  const [typed, setTyped] = useState<[string, string]>(["", ""]);
  const [fault, setFault] = useState<string | null>(null);
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
  const send = async (): Promise<void> => {
    setFault(null);
    const figures = FIELDS.map(([key], n) => ({ field: `${path}.${key}`, value: typed[n] ?? "" }));
    try {
      await edits.typeAct({ kind: "figures", figures });
    } catch (error) {
      setFault(wordsOf(error));
    }
  };
  return (
    <form
      aria-label="What it takes of the pressure"
      className="border-b border-hair py-1 text-[14px] text-ink-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {FIELDS.map(([key, label], n) => (
        <label key={key} className="flex items-center justify-between gap-3 py-0.5">
          {label}
          <input
            value={typed[n]}
            required
            maxLength={40}
            autoComplete="off"
            placeholder={LIKE[system][n]}
            onChange={(event) =>
              setTyped(n === 0 ? [event.target.value, typed[1]] : [typed[0], event.target.value])
            }
            className="w-28 rounded-[2px] border border-ink bg-panel px-2 py-1 text-right font-figure text-[16px] text-ink"
          />
        </label>
      ))}
      {fault && (
        <p role="alert" className="text-bad">
          {fault}
        </p>
      )}
      <Button type="submit" className="my-1">
        Set what it takes
      </Button>
    </form>
  );
}
