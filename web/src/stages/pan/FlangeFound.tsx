import { useState, type ReactElement } from "react";
import type { DrawingAsked, FlatDrawing } from "../../api/drawing";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useSettings } from "../../parts/settings";
import { lengthAs, shownAs } from "../../parts/units";
import { FlangePlan } from "./FlangePlan";

const WAYS = { up: "up", down: "down", left: "left", right: "right" } as const;
const SIDES = { above: "above", below: "below" } as const;
export const BOX =
  "w-24 rounded-[2px] border border-ink bg-panel px-2 py-1 text-right font-figure text-ink";

/** Where the nose is on a drawing or a picture, and from which side it is seen. */
export function HowItLies({
  asked,
  lies,
}: {
  asked: Pick<DrawingAsked, "ahead" | "seen">;
  lies: (more: Partial<Pick<DrawingAsked, "ahead" | "seen">>) => void;
}): ReactElement {
  return (
    <>
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
    </>
  );
}

/** What was read, its two farthest bolts to be measured, and what it is laid as. */
export function FlangeFound({
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
      <div className="pt-3">
        <FlangePlan drawing={drawing} width={280} marked={far?.between ?? []} />
      </div>
      <p className="py-1 text-[14px]">
        {bound(
          `${long(drawing.long_mm)} by ${long(drawing.wide_mm)}, ${drawing.holes.length} round holes.${
            far
              ? ` Between the two marked ones ${long(far.apart_mm)}: measure that on the engine before you go on.`
              : ""
          }${
            drawing.off_mm == null
              ? ""
              : ` A corner picked a pixel off moves a place by up to ${long(drawing.off_mm)}; what the lens bends is not in it.`
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
