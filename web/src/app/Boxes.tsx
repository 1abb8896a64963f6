import type { ReactElement } from "react";
import { useBuildView } from "../document/BuildContext";
import { FitForm } from "../document/circuit/FitForms";
import { FITS, type FitKind } from "../document/circuit/fits";
import { Dialog } from "../parts/Dialog";
import { useSettings } from "../parts/settings";
import { CommandBox } from "./CommandBox";
import { History } from "./History";
import { KeySheet } from "./KeySheet";
import { FIGURES } from "./registry";
import type { Box } from "./useFrameCommands";

/** The box that lies over the screen, if any. */
export function Boxes({ box, onClose }: { box: Box; onClose: () => void }): ReactElement | null {
  const { build, edit } = useBuildView();
  const { system } = useSettings();
  const { mutate } = edit;
  switch (box) {
    case "commands":
      return (
        <CommandBox
          figures={FIGURES}
          onFigure={(field, typed) =>
            mutate({
              kind: "act",
              act: { kind: "figures", figures: [{ field, value: typed }] },
              system,
            })
          }
          onClose={onClose}
        />
      );
    case "keys":
      return <KeySheet onClose={onClose} />;
    case "history":
      return (
        <History
          build={build}
          onShow={(state) => mutate({ kind: "show", state })}
          onCar={(state) => mutate({ kind: "asIs", state })}
          onName={(name) => mutate({ kind: "revision", name })}
          onClose={onClose}
        />
      );
    case null:
      return null;
    default: {
      const kind = box.slice("fit ".length) as FitKind;
      return (
        <Dialog title={FITS[kind].words} onClose={onClose}>
          <div className="max-h-[70vh] overflow-y-auto p-4">
            <FitForm kind={kind} onDone={onClose} />
          </div>
        </Dialog>
      );
    }
  }
}
