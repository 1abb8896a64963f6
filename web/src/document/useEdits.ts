import { useState } from "react";
import { Refusal, wordsOf } from "../api/client";
import type { Act, Edit } from "../api/queries";
import { useBuildView } from "./BuildContext";
import { useSettings } from "../parts/settings";
import type { Replace, Type } from "./ZoneNumbers";

export interface Edits {
  /** What the last refused edit of a whole part was refused for; figures say it themselves. */
  fault: string | null;
  /** Replaces figures by what was typed; the fault belongs to the caller. */
  type: Type;
  /** Does an act; its fault is kept here. */
  act: (act: Act) => void;
  /** Does an act with a figure as it was typed; the fault belongs to the caller. */
  typeAct: (act: Act) => Promise<unknown>;
  replace: Replace;
}

/** An act that puts in figures of one part, by their keys. */
export const figuresOf = (path: string, typed: Record<string, string>): Act => ({
  kind: "figures",
  figures: Object.entries(typed).map(([key, value]) => ({ field: `${path}.${key}`, value })),
});

/** Edits of the build shown on a screen. A conflict with another editor is said above, not here. */
export function useEdits(): Edits {
  const { build, edit } = useBuildView();
  const { system } = useSettings();
  const [fault, setFault] = useState<string | null>(null);
  const attempt = (change: Edit): void => {
    setFault(null);
    edit
      .mutateAsync(change)
      .catch((error: unknown) => {
        if (!(error instanceof Refusal && error.keptState !== null)) setFault(wordsOf(error));
      })
      .finally(() => edit.reset());
  };
  const typeAct = async (act: Act): Promise<unknown> => {
    setFault(null);
    try {
      return await edit.mutateAsync({ kind: "act", act, system });
    } catch (error) {
      if (error instanceof Refusal && error.keptState !== null) return null; // said above
      throw error;
    } finally {
      edit.reset(); // said beside the field, not again above
    }
  };
  const type: Type = (fields, typed) =>
    typeAct({ kind: "figures", figures: fields.map((field) => ({ field, value: typed })) });
  return {
    fault,
    type,
    typeAct,
    act: (act) => attempt({ kind: "act", act, system }),
    replace: (document, change) =>
      attempt({ kind: "document", document, change, madeOn: build.state }),
  };
}
