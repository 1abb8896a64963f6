import { useState, type ReactElement } from "react";
import { Refusal, wordsOf } from "../../../api/client";
import {
  printFile,
  usePrinted,
  type PrintAsked,
  type Printed,
  type What,
} from "../../../api/making";
import { useBuildView } from "../../../document/BuildContext";
import { bound } from "../../../parts/bound";
import { Choice } from "../../../parts/Choice";
import { EditFigure } from "../../../parts/EditFigure";
import { useSettings } from "../../../parts/settings";
import { lengthAs } from "../../../parts/units";

const KINDS: Readonly<Record<What, string>> = {
  pan: "the pan as a shell",
  inside: "the space inside it",
  spacer: "the spacer",
  pickup_plate: "the pickup's plate",
};

/** What is asked for each, and what shows before anything is typed. */
const ASKED: Readonly<
  Record<What, readonly (readonly [key: keyof Printed["asked"], label: string])[]>
> = {
  pan: [
    ["wall_mm", "Wall"],
    ["bed_long_mm", "Printer's bed, long"],
    ["bed_wide_mm", "Printer's bed, wide"],
    ["bed_high_mm", "Highest that it prints"],
  ],
  inside: [],
  spacer: [],
  pickup_plate: [
    ["bore_mm", "Port's bore"],
    ["between_mm", "Between its two bolts"],
    ["hole_mm", "Their holes"],
    ["thickness_mm", "Thickness"],
    ["tube_deg", "Tube, from square"],
  ],
};

function Told({ printed }: { printed: Printed }): ReactElement {
  const { system, units } = useSettings();
  const size = (mm: readonly number[]): string => {
    const shown = mm.map((each) => lengthAs(units, system, each));
    return `${shown.map(({ figure }) => figure).join(" x ")} ${shown[0]?.unit ?? ""}`;
  };
  const pieces =
    printed.pieces === 1
      ? `One piece, ${size(printed.size_mm)}`
      : `${printed.pieces} pieces, the largest ${size(printed.largest_mm)}`;
  return (
    <p className="py-1 text-[14px]" data-printed={printed.pieces}>
      {bound(`${pieces}; ${printed.solid_cm3.toFixed(0)} cm³ if printed solid.`)}
      <span className="block text-[13px] text-ink-2">{printed.about}</span>
    </p>
  );
}

/** The pan, its spacer or its pickup's plate as solids: for a printer, a mill, or beside a scan. */
export function PrintIt({
  usual,
}: {
  /** What is taken for what is not typed. */
  usual: Printed["asked"];
}): ReactElement {
  const { build } = useBuildView();
  const { system } = useSettings();
  const [asked, setAsked] = useState<PrintAsked>({ what: "pan", typed: {} });
  const { data, error } = usePrinted(build, asked, system);
  const forms = (["stl", "3mf", "glb"] as const).map((form) => [form, form.toUpperCase()] as const);
  const fault = error instanceof Refusal ? (error.problems[0]?.message ?? error.message) : null;
  return (
    <section aria-label="Print it" className="border-t border-ink px-4 py-2">
      <h2 className="font-figure text-[18px] font-semibold">Print it or mill it</h2>
      <Choice
        label="As a solid"
        value={asked.what}
        choices={KINDS}
        onChoose={(what) => setAsked({ ...asked, what })}
      />
      {ASKED[asked.what].map(([key, label]) => {
        const known = (data?.asked ?? usual)[key];
        return (
          <EditFigure
            key={key}
            label={label}
            field={key}
            value={typeof known === "number" ? known : null}
            onType={(typed) => {
              setAsked({ ...asked, typed: { ...asked.typed, [key]: typed } });
              return Promise.resolve();
            }}
          />
        );
      })}
      {error && (
        <p role="alert" className="py-1 text-[14px] text-bad">
          {fault ?? wordsOf(error)}{" "}
          <button
            type="button"
            className="underline"
            onClick={() => setAsked({ ...asked, typed: {} })}
          >
            as usual
          </button>
        </p>
      )}
      {data && (
        <>
          <Told printed={data} />
          <p className="flex flex-wrap gap-x-4 py-1 text-[14px]">
            {forms.map(([form, words]) => (
              <a
                key={form}
                className="underline"
                href={printFile(build, asked, system, form)}
                download
              >
                {words}
              </a>
            ))}
            {asked.what === "pickup_plate" && (
              <a className="underline" href={printFile(build, asked, system, "dxf")} download>
                DXF
              </a>
            )}
          </p>
        </>
      )}
      {!data && !error && <p className="py-1 text-[14px] text-ink-2">Working it out…</p>}
    </section>
  );
}
