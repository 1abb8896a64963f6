import type { PressureStage } from "../../api/pressure";
import type { Table } from "../../parts/csv";

/** The lap as figures, a row a sample: pressures, air, flows and oil of every part. */
export function lapTable(
  stage: PressureStage,
  names: ReadonlyMap<string, string>,
  isDry: boolean,
): Table {
  const { samples, layout } = stage;
  const name = (id: string): string => names.get(id) ?? id;
  const columns: [string, readonly number[]][] = [
    ["time [s]", samples.time_s],
    ["engine speed [rpm]", samples.rpm],
    ["air at the mouth", samples.mouth_gas],
    ["gallery [bar]", samples.gallery_bar],
    ["usual there [bar]", samples.usual_bar],
    ...(samples.measured_bar
      ? [["measured [bar]", samples.measured_bar] as [string, readonly number[]]]
      : []),
    [isDry ? "oil in tank, pan and lines [L]" : "oil in the pan [L]", stage.in_pan_l],
    ...layout.elements.map(({ of, what }, at): [string, readonly number[]] => [
      `${name(of)}, ${what} [L/min]`,
      samples.flow_l_min[at] ?? [],
    ]),
    ...layout.vessels.map(({ of, what }, at): [string, readonly number[]] => [
      `${name(of)}, ${what} [L]`,
      samples.held_l[at] ?? [],
    ]),
    ...layout.bottles.map((of, at): [string, readonly number[]] => [
      `${name(of)}, oil in it [L]`,
      samples.charge_l[at] ?? [],
    ]),
  ];
  return {
    title: "The circuit over the lap, sample by sample",
    headings: columns.map(([heading]) => heading),
    rows: samples.time_s.map((_, row) => columns.map(([, values]) => values[row] ?? 0)),
  };
}
