import type { ReactElement } from "react";
import type { Act } from "../../api/queries";
import type { Schemas } from "../../api/client";
import { Choice } from "../../parts/Choice";
import { EditFigure } from "../../parts/EditFigure";

export type PortGiven = Partial<Omit<Extract<Act, { kind: "set_port" }>, "kind" | "typed">>;
type Faces = NonNullable<Schemas["PortOut"]["faces"]>;

const FACES: Readonly<Record<Faces | "", string>> = {
  "": "not known",
  ahead: "ahead",
  behind: "behind",
  left: "left",
  right: "right",
  up: "up",
  down: "down",
};
const AXES = ["ahead", "left", "up"] as const;

/** A port's thread, which way it faces and where it is: figures of the act that sets them. */
export function PortPlace({
  thread,
  threads,
  faces,
  place,
  onSet,
  onType,
}: {
  /** Its thread by the key that the act takes, and in words. */
  thread: { key: string; words: string };
  threads: Readonly<Record<string, string>>;
  faces: string | null;
  place: readonly number[] | null;
  onSet: (given: PortGiven) => void;
  /** A figure as it was typed. */
  onType: (given: PortGiven) => Promise<unknown>;
}): ReactElement {
  const known = place ?? [0, 0, 0];
  return (
    <>
      <Choice
        label="Thread of the port"
        value={thread.key}
        choices={{ [thread.key]: thread.words, ...threads }}
        onChoose={(key) => onSet({ thread: key })}
      />
      <Choice<Faces | "">
        label="It faces"
        value={(faces ?? "") as Faces | ""}
        choices={FACES}
        onChoose={(way) => {
          if (way !== "") onSet({ faces: way });
        }}
      />
      {AXES.map((axis, n) => (
        <EditFigure
          key={axis}
          label={`Port, ${axis}`}
          field={`at_mm.${n}`}
          value={place?.[n] ?? null}
          onType={(typed) =>
            onType({ at_mm: known.map((was, k) => (k === n ? typed : was)) as never })
          }
        />
      ))}
    </>
  );
}
