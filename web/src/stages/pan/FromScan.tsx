import type { ReactElement } from "react";
import { AS_IT_IS, useReadScan, type Axis, type ScanAsked, type Scanned } from "../../api/scan";
import { useBuildView } from "../../document/BuildContext";
import { bound } from "../../parts/bound";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useSettings } from "../../parts/settings";
import { exactlyShown, lengthAs, volumeAs } from "../../parts/units";
import { ReadInPart, useReadIn } from "./ReadIn";
import { SurfacePlan } from "./SurfacePlan";

const UNITS = { mm: "millimetres", cm: "centimetres", m: "metres", in: "inches" } as const;
const AXES: Readonly<Record<Axis, string>> = {
  guess: "guess it",
  "+x": "+x",
  "-x": "-x",
  "+y": "+y",
  "-y": "-y",
  "+z": "+z",
  "-z": "-z",
};
const PLACES = [
  ["rear_right", "Rear face, right"],
  ["rear_left", "Rear face, left"],
  ["ahead", "Anywhere ahead"],
] as const;

/** How the mesh stands: its unit, its axes, or three places of its rail. */
function HowItStands({
  asked,
  onAsk,
}: {
  asked: ScanAsked;
  onAsk: (more: Partial<ScanAsked>) => void;
}): ReactElement {
  return (
    <>
      <Choice
        label="Drawn in"
        value={asked.unit}
        choices={UNITS}
        onChoose={(unit) => onAsk({ unit })}
      />
      <Choice
        label="Up, from floor to rail"
        value={asked.up}
        choices={AXES}
        onChoose={(up) => onAsk({ up })}
      />
      <Choice
        label="The crank's nose"
        value={asked.nose}
        choices={AXES}
        onChoose={(nose) => onAsk({ nose })}
      />
      <details className="border-b border-hair py-1 text-[14px]">
        <summary>Placed by three points of the rail instead</summary>
        <p className="text-[13px] text-ink-2">
          In the mesh&apos;s own frame and unit, as 0, -120, 0. The first two as far from the crank.
        </p>
        {PLACES.map(([key, label]) => (
          <label key={key} className="flex items-center justify-between gap-2 py-1 text-ink-2">
            {label}
            <input
              defaultValue={asked[key]}
              maxLength={80}
              placeholder="x, y, z"
              onBlur={(event) => onAsk({ [key]: event.target.value })}
              className="w-36 rounded-[2px] border border-ink bg-panel px-2 py-1 text-right font-figure text-ink"
            />
          </label>
        ))}
      </details>
    </>
  );
}

/** What was found, and how near the zones come to the mesh. */
function Found({ scanned }: { scanned: Scanned }): ReactElement {
  const { system, units } = useSettings();
  const long = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value, 1);
    return `${figure} ${unit}`;
  };
  const off = exactlyShown(units, "x_mm", system, scanned.off_mm);
  return (
    <>
      <SurfacePlan zones={scanned.zones} width={280} />
      <p className="py-1 text-[14px]">
        {bound(
          `${scanned.triangles.toLocaleString("en")} triangles, ${long(scanned.long_mm)} by ${long(scanned.wide_mm)}, ${long(scanned.deep_mm)} deep, ${litres(scanned.volume_l)} to the rail.`,
        )}
      </p>
      <p className="text-[13px] text-ink-2">
        {bound(
          `As ${scanned.zones.length === 1 ? "one zone" : `${scanned.zones.length} zones`} of ${scanned.pieces} pieces it holds ${litres(scanned.kept_l)}; floors within ${off.figure} ${off.unit} but for two places in a hundred.`,
        )}
      </p>
    </>
  );
}

/** The pan from a closed mesh of its inside: a scan, or drawn elsewhere. */
export function FromScan(): ReactElement {
  const { build } = useBuildView();
  const scan = useReadIn(useReadScan(build), AS_IT_IS);
  return (
    <ReadInPart
      of={scan}
      head="From a scan or a drawing in 3D"
      about="A closed mesh of the inside, its opening closed at the rail: STL, 3MF or OBJ. Plates, bosses and dipstick marks of the pan that is here go."
      accept=".stl,.3mf,.obj"
      label="Mesh of the inside"
      what="mesh"
      shown={(found) => (
        <>
          <Found scanned={found} />
          <Button
            look="main"
            className="mt-2"
            onClick={() =>
              scan.lay(
                { kind: "pan_from_scan", zones: found.zones },
                "It is this build's pan now. Undo brings the old one back.",
              )
            }
          >
            Make it this pan
          </Button>
        </>
      )}
    >
      <HowItStands asked={scan.asked} onAsk={scan.lies} />
    </ReadInPart>
  );
}
