import type { ReactElement } from "react";
import { AS_DRAWN, useReadDrawing } from "../../api/drawing";
import { useBuildView } from "../../document/BuildContext";
import { Choice } from "../../parts/Choice";
import { FlangeFound, HowItLies } from "./FlangeFound";
import { ReadInPart, useReadIn } from "./ReadIn";

const UNITS = {
  not_said: "as the file says",
  mm: "millimetres",
  cm: "centimetres",
  m: "metres",
  in: "inches",
} as const;

/** The flange, and a pan's opening, from a flat drawing. */
export function FromDrawing(): ReactElement {
  const { build } = useBuildView();
  const drawing = useReadIn(useReadDrawing(build), AS_DRAWN);
  const { asked, lies } = drawing;
  return (
    <ReadInPart
      of={drawing}
      head="Flange from a flat drawing"
      about="A DXF of the flange: its outline closed, its opening inside it, bolt holes as circles. Its middle is laid on the rail's."
      accept=".dxf"
      label="Drawing of the flange"
      what="drawing"
      shown={(found) => (
        <FlangeFound
          drawing={found}
          onLay={(figures) =>
            drawing.lay({ kind: "flange_drawn", ...figures }, "Laid. Undo takes it back.")
          }
        />
      )}
    >
      <Choice
        label="Drawn in"
        value={asked.unit}
        choices={UNITS}
        onChoose={(unit) => lies({ unit })}
      />
      <HowItLies asked={asked} lies={lies} />
    </ReadInPart>
  );
}
