import type { ReactElement } from "react";
import type { BuildDocument } from "../api/queries";
import { Button } from "../parts/Button";
import { RecordParts, Records, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";

type Pickup = BuildDocument["pickup"];

const TUBE: readonly Spec[] = [
  { kind: "figure", key: "bore_mm", label: "Tube's bore" },
  { kind: "figure", key: "length_mm", label: "Tube's length, bends counted" },
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
      ["new", "new"],
      ["reused", "used before"],
      ["unknown", "of unknown age"],
    ],
  },
];
const BRACES: readonly Spec[] = [
  { kind: "switch", key: "at_bell", label: "Braced at its bell" },
  { kind: "switch", key: "at_tube", label: "Braced at its tube" },
];

/** The pickup behind its mouth: tube and bends, screen, joint, braces; each only once it is known. */
export function PickupNumbers({
  document,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const { pickup } = document;
  const put = (change: Partial<Pickup>, words: string): void =>
    onReplace({ ...document, pickup: { ...pickup, ...change } }, words);
  const { tube, screen, joint, braces } = pickup;
  return (
    <>
      {tube && (
        <>
          <RecordParts
            record={tube}
            path="pickup.tube"
            specs={TUBE}
            onType={onType}
            onPut={(next) => put({ tube: next }, "pickup tube")}
          />
          <Records
            records={tube.bends.map((bend, at) => ({ ...bend, number: at + 1 }))}
            path="pickup.tube.bends"
            empty="A straight tube."
            specsOf={() => BEND}
            nameOf={({ number, angle_deg }) => `bend ${number}: ${angle_deg}°`}
            additions={[
              {
                words: "Add a bend",
                make: () => ({ angle_deg: 90, radius_mm: 40, number: tube.bends.length + 1 }),
              },
            ]}
            onType={onType}
            onPut={(bends, words) =>
              put(
                {
                  tube: {
                    ...tube,
                    bends: bends.map(({ angle_deg, radius_mm }) => ({ angle_deg, radius_mm })),
                  },
                },
                words,
              )
            }
          />
        </>
      )}
      {screen && (
        <RecordParts
          record={screen}
          path="pickup.screen"
          specs={SCREEN}
          onType={onType}
          onPut={(next) => put({ screen: next }, "pickup screen")}
        />
      )}
      {joint && (
        <RecordParts
          record={joint}
          path="pickup.joint"
          specs={JOINT}
          onType={onType}
          onPut={(next) => put({ joint: next }, "pickup joint")}
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
        {!tube && (
          <Button
            onClick={() => put({ tube: { bore_mm: 19, length_mm: 200, bends: [] } }, "pickup tube")}
          >
            Put in the tube
          </Button>
        )}
        {!screen && (
          <Button onClick={() => put({ screen: { kind: "wire", open_pct: 60 } }, "pickup screen")}>
            A screen
          </Button>
        )}
        {!joint && (
          <Button
            onClick={() => put({ joint: { seal: "o_ring", age: "unknown" } }, "pickup joint")}
          >
            The joint
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
