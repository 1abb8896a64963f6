import type { Act } from "../../../api/queries";
import { useBuildView } from "../../../document/BuildContext";
import { useSettings } from "../../../parts/settings";

type MakeOfSheet = Extract<Act, { kind: "make_of_sheet" }>;
export type SheetFigures = Partial<Record<Exclude<keyof MakeOfSheet, "kind" | "typed">, unknown>>;

/** Sets how the pan is made of sheet: figures as they were typed; a refusal is the caller's. */
export function useSheet(): (figures: SheetFigures) => Promise<unknown> {
  const { edit } = useBuildView();
  const { system } = useSettings();
  return (figures) =>
    edit
      .mutateAsync({ kind: "act", act: { kind: "make_of_sheet", ...figures } as Act, system })
      .finally(() => edit.reset());
}
