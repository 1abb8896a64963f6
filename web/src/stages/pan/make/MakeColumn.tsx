import type { ReactElement } from "react";
import { patternFile, type FlatPart, type Making } from "../../../api/making";
import type { Act } from "../../../api/queries";
import { useBuildView } from "../../../document/BuildContext";
import { useEdits } from "../../../document/useEdits";
import { bound } from "../../../parts/bound";
import { Choice } from "../../../parts/Choice";
import { EditFigure } from "../../../parts/EditFigure";
import { InUnits } from "../../../parts/InUnits";
import { Mark } from "../../../parts/Mark";
import { useSettings } from "../../../parts/settings";
import { exactlyShown, lengthAs } from "../../../parts/units";
import { Edges } from "./Edges";
import { PrintIt } from "./PrintIt";
import { useSheet } from "./useSheet";

const SAID = { steel: "steel", aluminium: "aluminium" } as const;
const METALS = { not_said: "not said", ...SAID } as const;

/** The files of all parts, and of the one looked at. */
function Files({ picked }: { picked: FlatPart }): ReactElement {
  const { build } = useBuildView();
  const link = (words: string, part: string, kind: "dxf" | "svg" | "paper"): ReactElement => (
    <a className="underline" href={patternFile(build, part, kind)} download>
      {words}
    </a>
  );
  return (
    <section aria-label="Files" className="px-4 py-3 text-[14px]">
      <h2 className="font-figure text-[18px] font-semibold">Cut it</h2>
      <p className="flex flex-wrap gap-x-4">
        {link("All as DXF", "", "dxf")}
        {link(`${picked.name} as DXF`, picked.key, "dxf")}
        {link("all as SVG", "", "svg")}
        {link("all on paper, full size", "", "paper")}
        {link(`${picked.name} on paper`, picked.key, "paper")}
      </p>
      <p className="pt-1 text-[13px] text-ink-2">
        Millimetres; layers CUT, DRILL, BEND, FOLD and MARK. Seen from inside the pan, the flange
        from the engine. Try a paper one first: measure its bar, glue the sheets along their marks.
        Welds that hold oil or the engine: a licensed welder, and a leak test.
      </p>
    </section>
  );
}

/** The sheet: how thick, how it bends, what it is bought as. */
function Sheet({ making }: { making: Making }): ReactElement {
  const { build } = useBuildView();
  const edits = useEdits();
  const set = useSheet();
  const said = build.document.pan.making ?? null;
  const ofMetal = (metal: keyof typeof METALS): void => {
    edits.act({ kind: "make_of_sheet", metal } as Act);
  };
  return (
    <section aria-label="Sheet" className="border-t border-ink px-4 py-2">
      <h2 className="font-figure text-[18px] font-semibold">The sheet</h2>
      <EditFigure
        label="Thickness of the pan's wall"
        field="pan.sheet_mm"
        value={build.document.pan.sheet_mm ?? null}
        {...(build.document.pan.sheet_mm == null && {
          note: `${making.thickness_mm} mm is taken, a guess`,
        })}
        onType={(typed) => edits.type(["pan.sheet_mm"], typed)}
      />
      <EditFigure
        label="Radius of bends, inside"
        field="radius_mm"
        value={making.radius_mm}
        {...(said?.radius_mm == null && { note: "a guess, until it is typed" })}
        onType={(typed) => set({ radius_mm: typed })}
      />
      <EditFigure
        label="K-factor"
        field="k_factor"
        value={making.k_factor}
        {...(said?.k_factor == null && {
          note: "soft sheet's, from memory: bend a trial strip and measure",
        })}
        onType={(typed) => set({ k_factor: typed })}
      />
      <EditFigure
        label="Gap left between welded edges"
        field="gap_mm"
        value={making.gap_mm}
        onType={(typed) => set({ gap_mm: typed })}
      />
      <label className="flex items-center justify-between border-b border-hair py-1 text-[14px] text-ink-2">
        Corners cut out where bends meet
        <input
          type="checkbox"
          checked={making.relief}
          onChange={(event) =>
            edits.act({ kind: "make_of_sheet", relief: event.target.checked } as Act)
          }
          className="size-4 accent-[var(--ink)]"
        />
      </label>
      {making.metal ? (
        <Choice label="Metal" value={making.metal} choices={SAID} onChoose={ofMetal} />
      ) : (
        <Choice label="Metal" value="not_said" choices={METALS} onChoose={ofMetal} />
      )}
      <EditFigure
        label="A sheet as bought, long"
        field="sheet_long_mm"
        value={making.sheet_long_mm}
        onType={(typed) => set({ sheet_long_mm: typed })}
      />
      <EditFigure
        label="A sheet as bought, wide"
        field="sheet_wide_mm"
        value={making.sheet_wide_mm}
        onType={(typed) => set({ sheet_wide_mm: typed })}
      />
      {edits.fault && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {edits.fault}
        </p>
      )}
    </section>
  );
}

/** What it takes and weighs, and what to look at before it is cut. */
function Figures({ making, picked }: { making: Making; picked: FlatPart }): ReactElement {
  const { system, units } = useSettings();
  const long = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const thick = (mm: number): string => {
    const { figure, unit } = exactlyShown(units, "x_mm", system, mm);
    return `${figure} ${unit}`;
  };
  return (
    <section aria-label="Before it is cut" className="border-t border-ink px-4 py-2 text-[14px]">
      <h2 className="font-figure text-[18px] font-semibold">Before it is cut</h2>
      <ul>
        <li className="border-b border-hair py-1">
          {bound(
            `${picked.name}: ${picked.area_cm2.toFixed(0)} cm², ${long(picked.cut_mm)} of cut, ${picked.pierces} ${picked.pierces === 1 ? "pierce" : "pierces"}`,
          )}
        </li>
        {making.nests.map((nest) => (
          <li key={nest.thickness_mm} className="border-b border-hair py-1" data-nest>
            {bound(
              `${thick(nest.thickness_mm)}: ${nest.sheets} ${nest.sheets === 1 ? "sheet" : "sheets"}, ${nest.used_pct.toFixed(0)} % used`,
            )}
            {nest.too_large.length > 0 && (
              <span className="text-bad">; larger than a sheet: {nest.too_large.join(", ")}</span>
            )}
          </li>
        ))}
        {making.weights.map((weight) => (
          <li key={weight.metal} className="border-b border-hair py-1" data-weight={weight.metal}>
            {bound(
              `In ${weight.metal} ${weight.empty_kg.toFixed(1)} kg empty, ${weight.with_oil_kg.toFixed(1)} kg with its oil, its middle ${long(-weight.with_oil_at_mm[2])} under the rail`,
            )}
          </li>
        ))}
      </ul>
      <p className="pt-1 text-[13px] text-ink-2">
        Parts lie in boxes of their own: a first figure for what to buy. Plates, bosses and welds
        are not weighed.
      </p>
      {making.cautions.map((words) => (
        <p key={words} className="flex gap-2 py-1">
          <Mark state="caution" size={16} />
          <span>
            <InUnits words={words} />.
          </span>
        </p>
      ))}
    </section>
  );
}

/** How the pan is made of sheet: which edges are bent, how it bends, and the files. */
export function MakeColumn({
  making,
  picked,
}: {
  making: Making;
  /** The part looked at; null: nothing is cut flat. */
  picked: FlatPart | null;
}): ReactElement {
  return (
    <div>
      {picked && (
        <>
          <Files picked={picked} />
          <Sheet making={making} />
        </>
      )}
      {making.seams.length > 0 && <Edges making={making} />}
      {picked && <Figures making={making} picked={picked} />}
      <PrintIt usual={making.usual_print} />
    </div>
  );
}
