import type { ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { suctionOf, withRun, type Run } from "./circuit/circuit";
import { RecordParts, Records, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";

type Pickup = BuildDocument["pickup"];

const TUBE: readonly Spec[] = [
  { kind: "figure", key: "bore_mm", label: "Tube's bore", mayBeUnknown: true },
  {
    kind: "figure",
    key: "length_mm",
    label: "Tube's length, bends counted",
    mayBeUnknown: true,
  },
];
const BEND: readonly Spec[] = [
  { kind: "figure", key: "angle_deg", label: "Turns by" },
  { kind: "figure", key: "radius_mm", label: "Radius of its centreline" },
];
const SCREEN: readonly Spec[] = [
  {
    kind: "choice",
    key: "kind",
    label: "Screen",
    choices: [
      ["wire", "wire mesh"],
      ["perforated", "perforated sheet"],
    ],
  },
  { kind: "figure", key: "open_pct", label: "Open, of its area" },
];
const JOINT: readonly Spec[] = [
  {
    kind: "choice",
    key: "seal",
    label: "Joint at the pump, sealed by",
    choices: [
      ["", "not looked at"],
      ["o_ring", "an O-ring"],
      ["gasket", "a gasket"],
      ["liquid", "liquid gasket"],
      ["brazed", "brazing"],
      ["none", "nothing"],
    ],
  },
  {
    kind: "choice",
    key: "age",
    label: "That seal is",
    choices: [
      ["", "not said"],
      ["new", "new"],
      ["reused", "used before"],
      ["unknown", "of unknown age"],
    ],
  },
  {
    kind: "figure",
    key: "leak_mm",
    label: "Lets air in, as a hole of",
    mayBeUnknown: true,
  },
];
const BRACES: readonly Spec[] = [
  { kind: "switch", key: "at_bell", label: "Braced at its bell" },
  { kind: "switch", key: "at_tube", label: "Braced at its tube" },
];

type Props = { document: BuildDocument; onType: Type; onReplace: Replace };

/** The tube and its joint: the run into the pump's inlet. */
function Tube({ document, onType, onReplace }: Props): ReactElement | null {
  const run = suctionOf(document);
  if (run?.line.kind !== "hard_line") return null;
  const { line } = run;
  const path = `circuit.runs.${run.id}`;
  const put = (change: Partial<Run>, words: string): void =>
    onReplace(withRun(document, run.id, change), words);
  return (
    <>
      <RecordParts
        record={line}
        path={`${path}.line`}
        specs={run.route.length > 0 ? TUBE.slice(0, 1) : TUBE}
        onType={onType}
        onPut={(next) => put({ line: next }, "pickup tube")}
      />
      <Records
        records={line.bends.map((bend, at) => ({ ...bend, number: at + 1 }))}
        path={`${path}.line.bends`}
        empty="A straight tube."
        specsOf={() => BEND}
        nameOf={({ number, angle_deg }) => `bend ${number}: ${angle_deg}°`}
        additions={[
          {
            words: "Add a bend",
            make: () => ({ angle_deg: 90, radius_mm: 40, number: line.bends.length + 1 }),
          },
        ]}
        onType={onType}
        onPut={(bends, words) => {
          const kept = bends.map(({ angle_deg, radius_mm }) => ({ angle_deg, radius_mm }));
          put({ line: { ...line, bends: kept } }, words);
        }}
      />
      <RecordParts
        record={run.end}
        path={`${path}.end`}
        specs={JOINT}
        onType={onType}
        onPut={(next) => put({ end: next }, "pickup joint")}
      />
    </>
  );
}

/** The pickup behind its mouth: tube and bends, joint, screen, braces. */
export function PickupNumbers({ document, onType, onReplace }: Props): ReactElement {
  const { pickup } = document;
  const put = (change: Partial<Pickup>, words: string): void =>
    onReplace({ ...document, pickup: { ...pickup, ...change } }, words);
  const { screen, braces } = pickup;
  return (
    <>
      <Tube document={document} onType={onType} onReplace={onReplace} />
      {screen && (
        <RecordParts
          record={screen}
          path="pickup.screen"
          specs={SCREEN}
          onType={onType}
          onPut={(next) => put({ screen: next }, "pickup screen")}
        />
      )}
      {braces && (
        <RecordParts
          record={braces}
          path="pickup.braces"
          specs={BRACES}
          onType={onType}
          onPut={(next) => put({ braces: next }, "pickup braces")}
        />
      )}
      <div className="flex flex-wrap gap-2 pt-2">
        {!screen && (
          <Button onClick={() => put({ screen: { kind: "wire", open_pct: 60 } }, "pickup screen")}>
            A screen
          </Button>
        )}
        {!braces && (
          <Button
            onClick={() => put({ braces: { at_bell: true, at_tube: false } }, "pickup braces")}
          >
            Its braces
          </Button>
        )}
      </div>
    </>
  );
}
