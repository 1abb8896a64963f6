import { useState, type ReactElement } from "react";
import type { Drive, Dry } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { FitForm } from "../../document/circuit/FitForms";
import { driveFit, UNKNOWN_DRIVE, type DriveFirst } from "../../document/driveFit";
import { useEdits } from "../../document/useEdits";
import { bound } from "../../parts/bound";
import { EditFigure } from "../../parts/EditFigure";
import { InUnits } from "../../parts/InUnits";
import { Mark } from "../../parts/Mark";
import { useSettings, type Settings } from "../../parts/settings";
import { exactlyShown, flowSpeedAs, lengthAs } from "../../parts/units";
import { DriveDrawn } from "./DriveDrawn";
import type { BeltDrive } from "./drivePlan";

/** What the form shows first: the drive there is, or the pulleys that come nearest. */
export function firstOfDrive(dry: Dry, told: BeltDrive | null, settings: Settings): DriveFirst {
  const length = (mm: number | null | undefined): string => {
    if (mm === null || mm === undefined) return "";
    const { figure, unit } = exactlyShown(settings.units, "x_mm", settings.system, mm);
    return `${figure} ${unit}`;
  };
  const [crank, pump] = dry.drives[0] ?? [UNKNOWN_DRIVE.crank_teeth, UNKNOWN_DRIVE.pump_teeth];
  const idler = told?.idler;
  return {
    crank_teeth: String(told?.crank_teeth ?? crank),
    pump_teeth: String(told?.pump_teeth ?? pump),
    belt_teeth: "",
    pitch_mm: length((told ?? UNKNOWN_DRIVE).pitch_mm),
    width_mm: length((told ?? UNKNOWN_DRIVE).width_mm),
    across_mm: length((told ?? UNKNOWN_DRIVE).across_mm),
    up_mm: length((told ?? UNKNOWN_DRIVE).up_mm),
    offset_mm: length((told ?? UNKNOWN_DRIVE).offset_mm),
    travel_mm: length((told ?? UNKNOWN_DRIVE).travel_mm),
    idler: idler?.runs_on ?? "none",
    idler_across_mm: length(idler?.across_mm),
    idler_up_mm: length(idler?.up_mm),
    idler_diameter_mm: length(idler?.diameter_mm),
    crank_x_mm: length(told?.crank_x_mm),
    body_length_mm: length(told?.body?.length_mm),
    body_diameter_mm: length(told?.body?.diameter_mm),
  };
}

/** What is right and wrong with it, and how near the pump comes to what is round it. */
function Judged({ drive }: { drive: Drive }): ReactElement {
  const { system, units } = useSettings();
  return (
    <>
      <ul aria-label="The drive against its rules">
        {drive.checks.map((check) => (
          <li key={check.words} className="flex gap-2 py-1 text-[14px]" title={check.source}>
            <Mark state={check.state} size={16} />
            <span>
              <InUnits words={check.words} />.
              <span className="block text-[12px] text-ink-2">{check.source.split(":")[0]}</span>
            </span>
          </li>
        ))}
        {drive.gaps.map((gap) => {
          const wanted = lengthAs(units, system, gap.wanted_mm);
          const found = exactlyShown(units, "x_mm", system, Math.abs(gap.gap_mm));
          const much = `${found.figure} ${found.unit}`;
          return (
            <li key={gap.name} className="flex gap-2 py-1 text-[14px]" data-gap={gap.name}>
              <Mark state={gap.state} size={16} />
              <span>
                {bound(
                  gap.gap_mm < 0
                    ? `Pump and ${gap.name} are ${much} in each other: shave it, or move the pump`
                    : `Pump to ${gap.name} ${much}, wanted ${wanted.figure} ${wanted.unit}`,
                )}
              </span>
            </li>
          );
        })}
      </ul>
      {drive.gaps.length === 0 && (
        <p className="text-[13px] text-ink-2">
          What the pump may touch is told once its pulley&apos;s place ahead of the rail, the
          crank&apos;s height and something round the engine are known on Car.
        </p>
      )}
    </>
  );
}

const FIGURES = [
  ["belt_teeth", "Teeth of the belt"],
  ["across_mm", "Pump, left of the crank"],
  ["up_mm", "Pump, above the crank"],
  ["offset_mm", "Its pulley ahead of the crank's"],
  ["turned_deg", "Its shaft turned, seen from above"],
  ["tilted_deg", "Its shaft tilted, seen from the side"],
  ["travel_mm", "It can be moved by"],
  ["crank_x_mm", "Crank's pulley ahead of the rail's rear"],
] as const;

/** Its figures, typed over one by one; pulleys and idler are fitted anew by the form. */
function DriveNumbers({ told }: { told: BeltDrive }): ReactElement {
  const edits = useEdits();
  const { idler, body } = told;
  const more = [
    ["idler.across_mm", "Idler, left of the crank", idler?.across_mm],
    ["idler.up_mm", "Idler, above the crank", idler?.up_mm],
    ["body.length_mm", "Pump's body, long", body?.length_mm],
    ["body.diameter_mm", "Pump's body, across", body?.diameter_mm],
  ] as const;
  const rows = [
    ...FIGURES.map(([key, label]) => [key, label, told[key]] as const),
    ...more.flatMap(([key, label, value]) =>
      value === undefined ? [] : [[key, label, value] as const],
    ),
  ];
  return (
    <section aria-label="The drive's figures">
      {told.assumed && (
        <p className="flex gap-2 py-1 text-[13px]">
          <Mark state="caution" size={15} /> Invented when it went dry: measure it, and type over.
        </p>
      )}
      {rows.map(([key, label, value]) => (
        <EditFigure
          key={key}
          label={label}
          field={`drive.${key}`}
          value={value ?? null}
          onType={(typed) => edits.type([`drive.${key}`], typed)}
        />
      ))}
    </section>
  );
}

/** The pump's belt: drawn, judged, measured; and its form. */
export function DriveSection({ dry }: { dry: Dry }): ReactElement {
  const { build } = useBuildView();
  const settings = useSettings();
  const [done, setDone] = useState<string | null>(null);
  const told = build.document.drive ?? null;
  const { drive } = dry;
  const { ratio } = drive ?? { ratio: dry.stages[0]?.drive_ratio ?? 0 };
  const nearest = dry.drives.map(([crank, pump]) => `${crank} to ${pump}`).join(", ");
  const belt = drive ? lengthAs(settings.units, settings.system, drive.belt_mm) : null;
  const fast = drive && flowSpeedAs(settings.units, settings.system, drive.belt_speed_m_s);
  return (
    <section aria-label="Drive" className="border-t border-ink px-6 py-4">
      <h2 className="font-figure text-[18px] font-semibold">Drive</h2>
      <p className="text-[14px]">
        {bound(
          `The pump turns ${ratio.toFixed(2)} times for one turn of the crank.${
            drive && belt && fast
              ? ` The belt's pitch line is ${belt.figure} ${belt.unit} round, and runs at ${fast.figure} ${fast.unit} at ${drive.at_rpm.toFixed(0)} rpm.`
              : nearest && ` Toothed pulleys that come nearest, crank's to pump's: ${nearest}.`
          }`,
        )}
      </p>
      <div className="grid gap-x-6 lg:grid-cols-2">
        {drive && told && (
          <div>
            <DriveDrawn drive={drive} dry={dry} told={told} />
            <p className="text-[13px] text-ink-2">
              To scale. The straight edge lies along the middle of the crank&apos;s pulley.
            </p>
          </div>
        )}
        <div>
          {drive && <Judged drive={drive} />}
          {told && <DriveNumbers told={told} />}
          {done && (
            <p role="status" className="py-1 text-[14px]">
              Done: <InUnits words={done} />.
            </p>
          )}
          <details className="mt-2" open={!told || undefined}>
            <summary className="py-1.5 text-[14px] font-medium">
              {told ? "Other pulleys, another place" : "Lay out the belt drive"}
            </summary>
            <FitForm
              key={build.state}
              kind="fit_drive"
              fit={driveFit(firstOfDrive(dry, told, settings))}
              onDone={setDone}
            />
          </details>
        </div>
      </div>
    </section>
  );
}
