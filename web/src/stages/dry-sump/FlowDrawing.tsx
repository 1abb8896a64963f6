import { useMemo, useRef, type ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { useClearWords, Words } from "../../drawing/Words";
import { GlassPipe } from "../../drawing/GlassPipe";
import { Matrix, metal, PumpSymbol, Vessel } from "../../drawing/OilParts";
import { pathOf } from "../../drawing/geometry";
import { useSettings } from "../../parts/settings";
import { flowAs, lengthAs, volumeAs } from "../../parts/units";
import type { Moment } from "../../plots/dryMoment";
import { within } from "../../drawing/leaning";
import { isAir, oilWord, pumpRpm } from "./flow";
import { flowPlan, JOIN, SHAFT, SIZE, STAGE, TANK, type FlowPlan } from "./plan";
import { TankDrawn } from "./TankDrawn";

/** Where the floor is wet: "up" in the engine's frame, and the surface's height along it [mm]. */
export interface Wet {
  up: readonly [number, number, number];
  heightMm: number;
}

const bold = { fontSize: 13, fontWeight: 600, fill: "var(--ink)" } as const;
const note = { fontSize: 12, fill: "var(--ink-2)" } as const;

function PanFromAbove({
  dry,
  plan,
  moment,
  wet,
}: {
  dry: Dry;
  plan: FlowPlan;
  moment: Moment;
  wet: Wet | null;
}): ReactElement {
  const { system, units } = useSettings();
  const { outline_mm: outline, depth_mm: depth } = dry;
  const oil = useMemo(() => {
    if (!wet) return [];
    const [nx, ny, nz] = wet.up;
    return within(outline, -nx, -ny, -(wet.heightMm + nz * depth));
  }, [outline, depth, wet]);
  const said = lengthAs(units, system, depth);
  const litres = volumeAs(units, system, moment.panL);
  const xs = plan.outline.map(([x]) => x);
  const ys = plan.outline.map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return (
    <g>
      <path
        d={pathOf(plan.outline)}
        fill="var(--panel)"
        stroke="var(--metal)"
        strokeWidth="7"
        strokeLinejoin="round"
      />
      <path d={pathOf(plan.outline)} fill="none" stroke="var(--ink)" strokeWidth="1" />
      <path
        d={pathOf(oil.map(plan.toPage))}
        fill="var(--oil-wash)"
        stroke="var(--oil-deep)"
        strokeWidth="1.5"
      />
      <path
        d={`M${left - 16} ${(top + plan.below) / 2}l9 -5v10z`}
        fill="var(--ink)"
        aria-hidden="true"
      />
      <Words rank="title" x={left - 4} y={20} {...bold} fontSize={14}>
        Pan from above
        <tspan fontWeight="400" fill="var(--ink-2)">
          {`, ${said.figure} ${said.unit} deep`}
        </tspan>
      </Words>
      <Words rank="part" x={left - 4} y={plan.lowest + 22} {...bold}>
        {litres.figure} {litres.unit} in the pan
        <tspan fontWeight="400" fill="var(--ink-2)">
          , drawn as it would settle
        </tspan>
      </Words>
    </g>
  );
}

/** A mouth of the pan, filled by what its stage draws. */
function Mouths({ plan, moment }: { plan: FlowPlan; moment: Moment }): ReactElement {
  return (
    <>
      {plan.mouths.map(({ mouth, stage, at: [x, y] }) => {
        const share = moment.shares[stage] ?? 0;
        return (
          <g key={mouth} data-mouth={mouth}>
            <circle cx={x} cy={y} r="11" fill="var(--air)" stroke="var(--ink)" strokeWidth="1.75" />
            <clipPath id={`mouth-${mouth}`}>
              <circle cx={x} cy={y} r="10" />
            </clipPath>
            <rect
              clipPath={`url(#mouth-${mouth})`}
              x={x - 11}
              y={y + 11 - 22 * share}
              width="22"
              height={22 * share}
              fill="var(--oil)"
            />
            <text x={x} y={y + 5} {...bold} fontSize={14} textAnchor="middle">
              {stage + 1}
            </text>
          </g>
        );
      })}
    </>
  );
}

function Stages({ dry, plan, moment }: { dry: Dry; plan: FlowPlan; moment: Moment }): ReactElement {
  const { system, units } = useSettings();
  return (
    <>
      {plan.rows.map(({ stage, y }) => {
        const share = moment.shares[stage] ?? 0;
        const flow = flowAs(units, system, moment.flows[stage] ?? 0);
        return (
          <g key={stage} data-stage={stage}>
            <g transform={`translate(${SHAFT} ${y}) scale(0.78)`}>
              <PumpSymbol at={[0, 0]} />
            </g>
            <Words rank="part" x={SHAFT - STAGE - 6} y={y - 12} {...bold} textAnchor="end">
              {stage + 1} {dry.stages[stage]?.name}
            </Words>
            <Words rank="gap" x={SHAFT - STAGE - 6} y={y + 21} {...note} textAnchor="end">
              {flow.figure} {flow.unit}
            </Words>
            <Words
              rank="part"
              x={SHAFT + STAGE + 6}
              y={y - 12}
              {...bold}
              fill={isAir(share) ? "var(--air-ink)" : "var(--ink)"}
            >
              {isAir(share) ? oilWord(share) : `${oilWord(share)} oil`}
            </Words>
          </g>
        );
      })}
    </>
  );
}

/** The shaft that all stages are on, and the belt that turns it. */
function Shaft({ dry, plan, moment }: { dry: Dry; plan: FlowPlan; moment: Moment }): ReactElement {
  const end = plan.pressureY + 40;
  const [first] = dry.stages;
  const top = Math.min(...plan.rows.map(({ y }) => y), plan.pressureY) - 28;
  return (
    <g>
      <path d={`M${SHAFT} ${top}V${end}`} stroke="var(--ink)" strokeWidth="3" />
      <rect x={SHAFT - 26} y={end - 8} width="52" height="14" {...metal} fill="var(--metal)" />
      <path
        d={[...Array(8).keys()].map((n) => `M${SHAFT - 19 + n * 5.5} ${end - 8}v14`).join("")}
        stroke="var(--ink)"
        strokeWidth="0.9"
      />
      <Words rank="part" x={SHAFT} y={top - 6} {...bold} textAnchor="middle">
        {first ? `Pump, ${pumpRpm(dry, moment).toFixed(0)} rpm` : "Pump"}
      </Words>
      <Words rank="name" x={SHAFT - 34} y={end + 4} {...note} textAnchor="end">
        belt from the crank, {(first?.drive_ratio ?? 0).toFixed(2)} to 1
      </Words>
    </g>
  );
}

/** Separator and cooler, each with the gas that is in it or comes to it. */
function OnTheWay({ plan, moment }: { plan: FlowPlan; moment: Moment }): ReactElement {
  return (
    <>
      {plan.way.map(({ kind, x, y }) => {
        const gas = kind === "cooler" ? (moment.inCooler ?? 0) : moment.joined;
        return (
          <g key={kind} data-on-the-way={kind}>
            {kind === "separator" ? (
              <g transform={`translate(${x} ${y})`}>
                <Vessel x={-19} y={-26} width={38} height={56} gas={gas} />
                <path
                  d="M-13 12q13 8 26 0M-13 20q13 8 26 0"
                  fill="none"
                  stroke="var(--ink)"
                  strokeWidth="1.1"
                />
              </g>
            ) : (
              <g transform={`translate(${x} ${y}) scale(0.8)`}>
                <Matrix gas={gas} half={26} wavy />
              </g>
            )}
            <Words rank="part" x={x} y={y - 34} {...bold} textAnchor="middle">
              {kind}
            </Words>
            <Words rank="gap" x={x} y={y + 46} {...note} textAnchor="middle">
              {Math.round(100 * gas)} % air
            </Words>
          </g>
        );
      })}
    </>
  );
}

/** Where the tank breathes. */
function Vent({ dry }: { dry: Dry }): ReactElement | null {
  const { circuit } = useBuildView().build.document;
  const run = circuit.runs.find(
    ({ service, start }) => service === "vent" && start.component === dry.tank.id,
  );
  if (!run) return null;
  const end = circuit.components.find(({ id }) => id === run.end.component);
  const x = TANK.x + TANK.width - 14;
  return (
    <g data-vent={end?.kind}>
      <path
        d={`M${x} ${TANK.y}V${TANK.y - 40}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.75"
        strokeDasharray={end?.kind === "catch_can" ? undefined : "5 3"}
      />
      {end?.kind === "catch_can" && (
        <rect x={x - 12} y={TANK.y - 68} width="24" height="28" {...metal} fill="var(--panel)" />
      )}
      <Words rank="name" x={x + 10} y={TANK.y - 76} {...note} textAnchor="end">
        {end ? `vents to the ${end.name}` : "vent"}
      </Words>
    </g>
  );
}

/** The lines between all of them, by what each carries now. */
function Lines({ plan, moment }: { plan: FlowPlan; moment: Moment }): ReactElement {
  const { system, units } = useSettings();
  const coming = volumeAs(units, system, moment.comingL);
  const gasOf = (stage: number): number => 1 - (moment.shares[stage] ?? 0);
  return (
    <>
      {plan.suctions.map((each) => (
        <GlassPipe key={each.key} pipe={each} gas={gasOf(each.stage)} />
      ))}
      {plan.outlets.map((each) => (
        <GlassPipe key={each.key} pipe={each} gas={gasOf(each.stage)} />
      ))}
      <GlassPipe pipe={plan.joined} gas={moment.joined} />
      {plan.behind.map((each, at) => (
        <GlassPipe
          key={each.key}
          pipe={each}
          gas={
            at === 0 && plan.way.length > 1 ? (moment.inCooler ?? moment.intoTank) : moment.intoTank
          }
        />
      ))}
      <Words rank="name" x={JOIN + 18} y={plan.joined.line[0]?.[1] ?? 0} {...note}>
        {coming.figure} {coming.unit} on the way back
      </Words>
      <GlassPipe pipe={plan.feed} gas={0} />
      <GlassPipe pipe={plan.gallery} gas={0} />
    </>
  );
}

/** Pan, stages, separator, cooler and tank as they are at one moment. */
export function FlowDrawing({
  dry,
  moment,
  wet,
  lean,
}: {
  dry: Dry;
  moment: Moment;
  wet: Wet | null;
  /** How steeply the tank's surface rises across the drawing. */
  lean: number;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const plan = useMemo(() => flowPlan(dry), [dry]);
  const arrow = plan.gallery.line[1] ?? [0, 0];
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="block h-auto w-full font-figure"
      role="img"
      aria-label="The dry sump at this moment"
    >
      <PanFromAbove dry={dry} plan={plan} moment={moment} wet={wet} />
      <Shaft dry={dry} plan={plan} moment={moment} />
      <Lines plan={plan} moment={moment} />
      <Mouths plan={plan} moment={moment} />
      <Stages dry={dry} plan={plan} moment={moment} />
      <g transform={`translate(${SHAFT} ${plan.pressureY}) scale(0.78)`}>
        <PumpSymbol at={[0, 0]} />
      </g>
      <path d={`M${arrow[0]} ${arrow[1] - 9}v18l-13 -9z`} fill="var(--oil-deep)" />
      <Words rank="part" x={SHAFT - STAGE - 6} y={plan.pressureY - 14} {...bold} textAnchor="end">
        pressure stage, to filter and gallery
      </Words>
      <OnTheWay plan={plan} moment={moment} />
      <TankDrawn dry={dry} moment={moment} lean={lean} />
      <Vent dry={dry} />
    </svg>
  );
}
