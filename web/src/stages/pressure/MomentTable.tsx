import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { useSettings } from "../../parts/settings";
import { flowAs, pressureAs, volumeAs } from "../../parts/units";
import { drawnAt, nowAt } from "./now";

interface Row {
  key: string;
  name: string;
  bar: number | null;
  air: number | null;
  flow: number | null;
  litres: number | null;
}

type Names = ReadonlyMap<string, string>;

const NONE = { bar: null, air: null, flow: null, litres: null };

/** Every part at the moment, in flow order: pressure behind it, air in it, flow through it. */
export function rowsOf(stage: PressureStage, names: Names, time: number): Row[] {
  const now = nowAt(stage, time);
  const { layout } = stage;
  const name = (id: string): string => names.get(id) ?? id;
  const flowOf = (id: string): number | null => {
    const found = layout.elements.filter(({ of, what }) => of === id && what !== "bypass");
    return found.length ? found.reduce((sum, { of, what }) => sum + now.flow(of, what), 0) : null;
  };
  const litresOf = (id: string): number | null => {
    if (layout.bottles.includes(id)) return now.chargeL(id);
    return layout.vessels.some(({ of }) => of === id) ? now.held(id, "floor") : null;
  };
  const at = (key: string, words: string, node: number, flow: number | null): Row => ({
    key,
    name: words,
    bar: now.pressure(node),
    air: now.gas(node),
    flow,
    litres: null,
  });
  const parts = [...layout.line, ...layout.branches.flatMap(({ parts: each }) => each)];
  return [
    {
      key: "mouth",
      name: "mouth",
      bar: null,
      air: now.mouthGas,
      flow: drawnAt(stage, now).all,
      litres: now.inPanL,
    },
    at("inlet", "pump's inlet", layout.inlet, null),
    at(layout.pump, name(layout.pump), layout.outlet, flowOf(layout.pump)),
    ...parts.map(({ component, leaves }) => ({
      ...at(component, name(component), leaves, flowOf(component)),
      litres: litresOf(component),
    })),
    at(
      layout.gallery_id,
      `${name(layout.gallery_id)}, bearings`,
      layout.gallery,
      now.flow(layout.gallery_id, "bearings"),
    ),
    ...layout.vessels
      .filter(({ what }) => what === "thrown")
      .map(({ of, what }) => ({
        ...NONE,
        key: `${of} ${what}`,
        name: "off the crank, coming down",
        litres: now.held(of, what),
      })),
  ];
}

/** The moment as a table. */
export function MomentTable({ stage, time }: { stage: PressureStage; time: number }): ReactElement {
  const { system, units } = useSettings();
  const { circuit } = useBuildView().build.document;
  const names = new Map(circuit.components.map(({ id, name }) => [id, name]));
  const cell = (value: number | null, tell: typeof pressureAs): string =>
    value === null ? "" : tell(units, system, value).figure;
  const unit = (tell: typeof pressureAs): string => tell(units, system, 1).unit;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-6 pb-3">
      <table className="w-full max-w-3xl font-figure text-[15px]">
        <caption className="sr-only">The circuit at {time.toFixed(1)} s, part by part</caption>
        <thead className="sticky top-0 bg-paper">
          <tr>
            {[
              "",
              `pressure, ${unit(pressureAs)}`,
              "air",
              `flow, ${unit(flowAs)}`,
              `oil in it, ${unit(volumeAs)}`,
            ].map((heading, index) => (
              <th
                key={heading || index}
                scope="col"
                className="border-b border-ink px-2 py-1 text-right first:text-left"
              >
                {heading || "part"}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rowsOf(stage, names, time).map((row) => (
            <tr key={row.key}>
              <th scope="row" className="border-b border-hair px-2 py-0.5 text-left font-medium">
                {row.name}
              </th>
              <td className="border-b border-hair px-2 text-right">{cell(row.bar, pressureAs)}</td>
              <td className="border-b border-hair px-2 text-right">
                {row.air === null ? "" : `${(row.air * 100).toFixed(0)} %`}
              </td>
              <td className="border-b border-hair px-2 text-right">{cell(row.flow, flowAs)}</td>
              <td className="border-b border-hair px-2 text-right">{cell(row.litres, volumeAs)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
