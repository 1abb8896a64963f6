import { useState, type ReactElement } from "react";
import { AS_DRAWN, useReadDrawing, type FlatDrawing } from "../../api/drawing";
import { useBuildView } from "../../document/BuildContext";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useSettings } from "../../parts/settings";
import { lengthAs, shownAs } from "../../parts/units";
import { FlangePlan } from "./FlangePlan";
import { ReadInPart, useReadIn } from "./ReadIn";

const UNITS = {
  not_said: "as the file says",
  mm: "millimetres",
  cm: "centimetres",
  m: "metres",
  in: "inches",
} as const;
const WAYS = { up: "up", down: "down", left: "left", right: "right" } as const;
const SIDES = { above: "above", below: "below" } as const;
const BOX =
  "w-24 rounded-[2px] border border-ink bg-panel px-2 py-1 text-right font-figure text-ink";

/** What was read, its two farthest bolts to be measured, and what it is laid as. */
function Found({
  drawing,
  onLay,
}: {
  drawing: FlatDrawing;
  onLay: (figures: Record<string, unknown>) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [thick, setThick] = useState(system === "us" ? "1/4 in" : "6 mm");
  const [depth, setDepth] = useState(system === "us" ? "5 in" : "120 mm");
  const [outline, rail] = drawing.rings_mm;
  const [measured, setMeasured] = useState("");
  const far = drawing.farthest;
  const long = (mm: number): string => {
    const { figure, unit } = shownAs(units, "x_mm", system, mm, 1) ?? lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const flange = {
    outline_mm: outline,
    bolts: drawing.holes,
    thickness_mm: thick,
    ...(far && measured.trim() !== "" && { measured_mm: measured }),
  };
  return (
    <>
      <FlangePlan drawing={drawing} width={280} marked={far?.between ?? []} />
      <p className="py-1 text-[14px]">
        {bound(
          `${long(drawing.long_mm)} by ${long(drawing.wide_mm)}, ${drawing.holes.length} round holes.${
            far
              ? ` Between the two marked ones ${long(far.apart_mm)}: measure that on the engine before you go on.`
              : ""
          }`,
        )}
      </p>
      {far && (
        <label className="flex items-center justify-between gap-2 py-1 text-[14px] text-ink-2">
          Measured between them
          <input
            value={measured}
            maxLength={40}
            placeholder="not yet"
            onChange={(event) => setMeasured(event.target.value)}
            className={BOX}
          />
        </label>
      )}
      <label className="flex items-center justify-between gap-2 py-1 text-[14px] text-ink-2">
        Thickness
        <input
          value={thick}
          maxLength={40}
          onChange={(event) => setThick(event.target.value)}
          className={BOX}
        />
      </label>
      <Button look="main" onClick={() => onLay(flange)}>
        Lay it as the flange
      </Button>
      {rail && (
        <>
          <label className="flex items-center justify-between gap-2 py-1 pt-3 text-[14px] text-ink-2">
            A pan begun inside it, deep
            <input
              value={depth}
              maxLength={40}
              onChange={(event) => setDepth(event.target.value)}
              className={BOX}
            />
          </label>
          <Button onClick={() => onLay({ ...flange, rail_mm: rail, depth_mm: depth })}>
            Begin the pan with its opening
          </Button>
        </>
      )}
    </>
  );
}

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
        <Found
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
      <Choice
        label="The nose is"
        value={asked.ahead}
        choices={WAYS}
        onChoose={(ahead) => lies({ ahead })}
      />
      <Choice
        label="Seen from"
        value={asked.seen}
        choices={SIDES}
        onChoose={(seen) => lies({ seen })}
      />
    </ReadInPart>
  );
}
