import type { ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { useSettings } from "../../parts/settings";
import { lengthAs, volumeAs } from "../../parts/units";
import { TankBox } from "../../drawing/OilParts";
import { HALO, Words } from "../../drawing/Words";
import type { Moment } from "../../plots/dryMoment";
import { TANK } from "./plan";

/** The tank with its oil as the load has it. */
export function TankDrawn({
  dry,
  moment,
  lean,
}: {
  dry: Dry;
  moment: Moment;
  /** How steeply its surface rises across the drawing. */
  lean: number;
}): ReactElement {
  const { system, units } = useSettings();
  const { tank } = dry;
  const inside = volumeAs(units, system, moment.tankL);
  const whole = volumeAs(units, system, tank.volume_l);
  const cover = lengthAs(units, system, moment.coverMm);
  const [x, bottom] = [TANK.x, TANK.y + TANK.height];
  const text = { x: x - 10, textAnchor: "end", fontSize: 13, fill: "var(--ink)" } as const;
  return (
    <g data-tank={moment.tankL.toFixed(1)}>
      <TankBox at={TANK} share={moment.tankL / tank.volume_l} lean={lean} />
      <Words rank="part" {...text} y={TANK.y + 44} {...HALO}>
        <tspan fontWeight="600">{tank.name}</tspan>
        <tspan x={text.x} dy="16">
          {inside.figure} of {whole.figure} {whole.unit}
        </tspan>
      </Words>
      <Words rank="dimension" {...text} y={bottom - 36} {...HALO}>
        <tspan fontWeight="600">
          {cover.figure} {cover.unit}
        </tspan>
        <tspan x={text.x} dy="15" fill="var(--ink-2)">
          over its outlet
        </tspan>
      </Words>
    </g>
  );
}
