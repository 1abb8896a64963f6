import type { ReactElement } from "react";
import { GlassPipe } from "../../drawing/GlassPipe";
import { PumpSymbol, TankBox } from "../../drawing/OilParts";
import { useSettings } from "../../parts/settings";
import { volumeAs } from "../../parts/units";
import { TwoWords } from "./TwoWords";
import type { DryPlan } from "./dryPlan";
import type { Now } from "./now";
import type { DryNow } from "./useDryNow";

interface Drawn {
  plan: DryPlan;
  dry: DryNow | null;
  now: Now;
}

/** A dry sump's tank, its shallow pan, and the way between them. */
export function DryDrawn({ plan, dry, now }: Drawn): ReactElement {
  const { pan, scavenge } = plan;
  const moment = dry?.moment ?? null;
  const share = moment && dry ? Math.min(1, moment.tankL / dry.tank.volume_l) : 0;
  return (
    <g>
      <GlassPipe pipe={plan.back} gas={moment ? moment.intoTank : 0} />
      <g transform={`translate(${scavenge.join(" ")}) scale(0.5)`}>
        <PumpSymbol at={[0, 0]} />
      </g>
      <TankBox at={plan.tank} share={share} lean={dry?.lean ?? 0} />
      <GlassPipe pipe={plan.feed} gas={now.gas(plan.feed.node)} />
      <rect {...pan} fill="var(--panel)" />
      <rect
        x={pan.x}
        y={pan.y + pan.height - Math.min(pan.height, 4 + (moment?.panL ?? 0) * 8)}
        width={pan.width}
        height={Math.min(pan.height, 4 + (moment?.panL ?? 0) * 8)}
        fill="var(--oil)"
      />
      <path
        d={`M${pan.x} ${pan.y}v${pan.height}h${pan.width}v${-pan.height}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.75"
        data-keep-free
      />
    </g>
  );
}

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;

/** What tank, pan and the way back hold, beside them. */
export function DryWords({ plan, dry, now }: Drawn): ReactElement {
  const { limits, system, units } = useSettings();
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  const moment = dry?.moment;
  const name = dry?.tank.name ?? "Tank";
  const held =
    dry && moment
      ? `${volumeAs(units, system, moment.tankL).figure} of ${litres(dry.tank.volume_l)}`
      : `${litres(now.inPanL)} in tank, pan and lines`;
  return (
    <>
      <TwoWords
        at={plan.under}
        first={`${name}: ${held}`}
        second={now.mouthGas >= 0.01 ? `outlet: ${percent(now.mouthGas)} air` : "outlet covered"}
        isBad={now.mouthGas > limits.runsDry}
      />
      {moment && (
        <>
          <TwoWords
            at={[plan.pan.x + plan.pan.width / 2, plan.pan.y + plan.pan.height + 17]}
            anchor="middle"
            first={`${litres(moment.panL)} in the pan`}
          />
          <TwoWords
            at={[plan.scavenge[0] + 24, plan.scavenge[1]]}
            first={`${litres(moment.comingL)} coming back,`}
            second={`${percent(moment.intoTank)} air`}
          />
        </>
      )}
    </>
  );
}
