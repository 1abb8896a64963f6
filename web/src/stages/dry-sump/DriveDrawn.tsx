import { useMemo, useRef, type ReactElement } from "react";
import type { Drive, Dry } from "../../api/dry";
import { useBuildView } from "../../document/BuildContext";
import { Dimension } from "../../drawing/Dimension";
import { pathOf, type Point } from "../../drawing/geometry";
import { metal } from "../../drawing/OilParts";
import { HALO, useClearWords, Words } from "../../drawing/Words";
import { useSettings } from "../../parts/settings";
import { useSize } from "../../parts/size";
import { exactlyShown, lengthAs } from "../../parts/units";
import { drivePlan, type BeltDrive, type DrivePlan } from "./drivePlan";

const bold = { fontSize: 14, fontWeight: 600, fill: "var(--ink)" } as const;
const LEAST = 240;
const note = { fontSize: 13, fill: "var(--ink-2)" } as const;

/** A wheel with its shaft, and how many teeth it has. */
function WheelDrawn({
  wheel,
  middle,
}: {
  wheel: DrivePlan["wheels"][number];
  /** Between all wheels, up the page: words go to the side away from it. */
  middle: number;
}): ReactElement {
  const [x, y] = wheel.at;
  const beside = y < middle ? y - wheel.r - 10 : y + wheel.r + 20;
  const tooth = wheel.teeth === null ? undefined : (2 * Math.PI * wheel.r) / wheel.teeth / 2;
  return (
    <g data-wheel={wheel.name}>
      <circle cx={x} cy={y} r={wheel.r} {...metal} />
      {tooth !== undefined && (
        <circle
          cx={x}
          cy={y}
          r={Math.max(1, wheel.r - 3)}
          fill="none"
          stroke="var(--ink-2)"
          strokeWidth="3"
          strokeDasharray={`${tooth.toFixed(2)} ${tooth.toFixed(2)}`}
        />
      )}
      <circle cx={x} cy={y} r="4" fill="var(--ink)" />
      <Words rank="part" x={x} y={beside} {...bold} {...HALO} textAnchor="middle">
        {wheel.name}
        {wheel.teeth !== null && `, ${wheel.teeth} teeth`}
      </Words>
    </g>
  );
}

/** The pan behind, as far as its place to the crank is known. */
function PanBehind({ pan }: { pan: NonNullable<DrivePlan["pan"]> }): ReactElement {
  return (
    <g data-pan-behind>
      <path
        d={`M${pan.left} ${pan.rail}H${pan.right}M${pan.left} ${pan.rail}V${pan.floor}H${pan.right}V${pan.rail}`}
        fill="none"
        stroke="var(--ink-2)"
        strokeWidth="1"
        strokeDasharray="6 4"
      />
      <Words rank="name" mayGo x={pan.right - 4} y={pan.rail + 16} {...note} textAnchor="end">
        pan&apos;s rail
      </Words>
    </g>
  );
}

const middleOf = (corners: readonly Point[]): Point => [
  corners.reduce((sum, [x]) => sum + x, 0) / corners.length,
  corners.reduce((sum, [, y]) => sum + y, 0) / corners.length + 5,
];

function FromAbove({ plan, told }: { plan: DrivePlan; told: BeltDrive }): ReactElement {
  const { system, units } = useSettings();
  const { above } = plan;
  const offset = exactlyShown(units, "x_mm", system, Math.abs(told.offset_mm));
  const [from, to] = above.straightEdge;
  const bodyAt = middleOf(above.body ?? above.pump);
  return (
    <g data-from-above>
      {above.body && (
        <>
          <path d={pathOf(above.body)} fill="var(--panel)" stroke="var(--ink)" />
          <Words rank="part" x={bodyAt[0]} y={bodyAt[1]} {...bold} textAnchor="middle">
            pump
          </Words>
        </>
      )}
      <path d={pathOf(above.crank)} {...metal} />
      <path d={pathOf(above.pump)} {...metal} />
      <path
        d={`M${from[0]} ${from[1]}L${to[0]} ${to[1]}`}
        stroke="var(--ink)"
        strokeWidth="1"
        strokeDasharray="9 3 2 3"
      />
      <Words rank="title" x={16} y={above.y - 34} {...bold}>
        From above
        <tspan fontWeight="400" fill="var(--ink-2)">
          {told.offset_mm === 0
            ? ", pulleys in one plane"
            : `, the pump's pulley ${offset.figure} ${offset.unit} ${told.offset_mm > 0 ? "ahead" : "behind"}`}
        </tspan>
      </Words>
    </g>
  );
}

/** A belt drive from ahead and from above, to scale. */
export function DriveDrawn({
  drive,
  dry,
  told,
}: {
  drive: Drive;
  dry: Dry;
  told: BeltDrive;
}): ReactElement {
  const svg = useRef<SVGSVGElement>(null);
  useClearWords(svg);
  const { system, units } = useSettings();
  const [box, { width }] = useSize();
  const { crank } = useBuildView().build.document.car;
  const crankMm = crank?.height_mm ?? null;
  const plan = useMemo(
    () =>
      drivePlan(
        drive,
        told,
        { outline: dry.outline_mm, depthMm: dry.depth_mm, crankMm },
        Math.max(width, LEAST),
      ),
    [drive, told, dry, crankMm, width],
  );
  const middle =
    plan.wheels.reduce((sum, { at: [, y] }) => sum + y, 0) / Math.max(1, plan.wheels.length);
  const centres = lengthAs(units, system, drive.centres_mm);
  const at = (name: string) => plan.wheels.find((wheel) => wheel.name === name)?.at ?? [0, 0];
  const [one, other] = [at("crank"), at("pump")];
  const ends = one[0] < other[0] ? ([one, other] as const) : ([other, one] as const);
  return (
    <div ref={box}>
      <svg
        ref={svg}
        width={plan.width}
        height={plan.height.toFixed(0)}
        className="block font-figure"
        role="img"
        aria-label="The belt drive from ahead and from above"
        data-drive
      >
        <Words rank="title" x={16} y={20} {...bold}>
          Seen from ahead
          <tspan fontWeight="400" fill="var(--ink-2)">
            , the engine&apos;s left to the right
          </tspan>
        </Words>
        {plan.pan && <PanBehind pan={plan.pan} />}
        {plan.body && (
          <circle
            cx={plan.body.at[0]}
            cy={plan.body.at[1]}
            r={plan.body.r}
            fill="var(--panel)"
            stroke="var(--ink)"
            strokeDasharray="4 3"
          />
        )}
        {plan.wheels.map((wheel) => (
          <WheelDrawn key={wheel.name} wheel={wheel} middle={middle} />
        ))}
        <path d={plan.belt} fill="none" stroke="var(--ink)" strokeWidth="6" data-belt />
        <path d={plan.belt} fill="none" stroke="var(--metal-2)" strokeWidth="2.5" />
        <Dimension a={ends[0]} b={ends[1]} offset={0} text={`${centres.figure} ${centres.unit}`} />
        <FromAbove plan={plan} told={told} />
      </svg>
    </div>
  );
}
