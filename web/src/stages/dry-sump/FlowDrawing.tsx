import { useMemo, type ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { hatchPath } from "../../drawing/hatch";
import type { Point, Ring } from "../../drawing/geometry";
import { useSettings } from "../../parts/settings";
import { flowAs, lengthAs, volumeAs } from "../../parts/units";
import { filled, oilWord, within, type Moment } from "./flow";

const SIZE = { width: 760, height: 338 } as const;
const PAN = { x: 20, y: 44, width: 250, height: 190 } as const;
const PUMP = { x: 392, y: 26, width: 66, height: 46, gap: 16 } as const;
const TANK = { x: 640, y: 84, width: 92, height: 186 } as const;
const RETURN_X = 520;

const path = (ring: Ring): string =>
  ring.length === 0 ? "" : `M${ring.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L")}Z`;

/** A pipe seen as glass: oil below, hatched gas above, by their shares. */
function Line({
  from,
  to,
  oil,
  wide = 14,
}: {
  from: Point;
  to: Point;
  oil: number;
  wide?: number;
}): ReactElement {
  const isUpright = Math.abs(to[0] - from[0]) < Math.abs(to[1] - from[1]);
  const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [y0, y1] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  const box = isUpright
    ? { x: x0 - wide / 2, y: y0, width: wide, height: y1 - y0 }
    : { x: x0, y: y0 - wide / 2, width: x1 - x0, height: wide };
  const part = Math.max(0, Math.min(1, oil));
  const oilBox = isUpright
    ? { ...box, x: box.x + box.width * (1 - part), width: box.width * part }
    : { ...box, y: box.y + box.height * (1 - part), height: box.height * part };
  const ring: Ring = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x + box.width, box.y + box.height],
    [box.x, box.y + box.height],
  ];
  return (
    <g>
      <rect {...box} fill="var(--air)" stroke="var(--ink)" />
      <path d={hatchPath([ring], 7, -1)} stroke="var(--air-ink)" strokeWidth="0.8" />
      <rect {...oilBox} fill="var(--oil)" stroke="none" />
      <rect {...box} fill="none" stroke="var(--ink)" />
    </g>
  );
}

/** Where the floor is wet: "up" in the engine's frame, and the surface's height along it [mm]. */
export interface Wet {
  up: readonly [number, number, number];
  heightMm: number;
}

function PanFromAbove({
  dry,
  moment,
  wet,
}: {
  dry: Dry;
  moment: Moment;
  wet: Wet | null;
}): ReactElement {
  const { system, units } = useSettings();
  const { outline_mm: outline, depth_mm: depth } = dry;
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
  const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(PAN.width / (x1 - x0), PAN.height / (y1 - y0));
  // as on the pan: the nose to the left, so the engine's right is above
  const place = ([x, y]: Point): Point => [PAN.x + (x1 - x) * scale, PAN.y + (y - y0) * scale];
  const oil = useMemo(() => {
    if (!wet) return [];
    const [nx, ny, nz] = wet.up;
    return within(outline, -nx, -ny, -(wet.heightMm + nz * depth));
  }, [outline, depth, wet]);
  const said = lengthAs(units, system, depth);
  const litres = volumeAs(units, system, moment.panL);
  return (
    <g>
      <text x={PAN.x} y={PAN.y - 12} fontSize="14" fontWeight="600" fill="var(--ink)">
        Pan from above
        <tspan fontWeight="400" fill="var(--ink-2)">
          {"  "}
          {said.figure} {said.unit} deep, oil as it would settle
        </tspan>
      </text>
      <path d={path(outline.map(place))} fill="var(--panel)" stroke="var(--ink)" strokeWidth="2" />
      <path d={path(oil.map(place))} fill="var(--oil-wash)" stroke="var(--oil-deep)" />
      <path
        d={`M${PAN.x - 14} ${PAN.y + ((y1 - y0) * scale) / 2}l9 -5v10z`}
        fill="var(--ink)"
        aria-hidden="true"
      />
      {dry.mouths.map((mouth, at) => {
        const [x, y] = place([mouth.x_mm, mouth.y_mm]);
        const stage = dry.stages.findIndex(({ mouths }) => mouths.includes(at));
        const share = moment.shares[stage] ?? 0;
        return (
          <g key={mouth.id} data-mouth={at}>
            <circle cx={x} cy={y} r="11" fill="var(--air)" stroke="var(--ink)" strokeWidth="1.5" />
            <clipPath id={`mouth-${at}`}>
              <circle cx={x} cy={y} r="10" />
            </clipPath>
            <rect
              clipPath={`url(#mouth-${at})`}
              x={x - 11}
              y={y + 11 - 22 * share}
              width="22"
              height={22 * share}
              fill="var(--oil)"
            />
            <text
              x={x}
              y={y + 5}
              fontSize="14"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--ink)"
            >
              {stage + 1}
            </text>
          </g>
        );
      })}
      <text x={PAN.x} y={PAN.y + (y1 - y0) * scale + 20} fontSize="14" fill="var(--ink)">
        {litres.figure} {litres.unit} in the pan
      </text>
    </g>
  );
}

function Tank({ dry, moment, lean }: { dry: Dry; moment: Moment; lean: number }): ReactElement {
  const { system, units } = useSettings();
  const { tank } = dry;
  const inside = volumeAs(units, system, moment.tankL);
  const whole = volumeAs(units, system, tank.volume_l);
  const cover = lengthAs(units, system, moment.coverMm);
  const aspect = tank.length_mm / tank.height_mm;
  const height = Math.min(TANK.height, TANK.width / aspect);
  const width = Math.min(TANK.width, height * aspect);
  const [x, bottom] = [TANK.x + (TANK.width - width) / 2, TANK.y + TANK.height];
  const oil = filled(width, height, Math.min(1, moment.tankL / tank.volume_l), lean);
  return (
    <g data-tank={moment.tankL.toFixed(1)}>
      <rect
        x={x}
        y={bottom - height}
        width={width}
        height={height}
        fill="var(--panel)"
        stroke="none"
      />
      <path d={path(oil.map(([u, v]) => [x + u, bottom + v]))} fill="var(--oil)" />
      <rect
        x={x}
        y={bottom - height}
        width={width}
        height={height}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
      />
      <text x={x - 8} y={bottom - 66} fontSize="13" textAnchor="end" fill="var(--ink)">
        <tspan fontWeight="600">{tank.name}</tspan>
        <tspan x={x - 8} dy="15">
          {inside.figure} of {whole.figure} {whole.unit}
        </tspan>
        <tspan x={x - 8} dy="18" fontWeight="600">
          {cover.figure} {cover.unit}
        </tspan>
        <tspan x={x - 8} dy="15" fill="var(--ink-2)">
          over its outlet
        </tspan>
      </text>
    </g>
  );
}

function Stages({ dry, moment }: { dry: Dry; moment: Moment }): ReactElement {
  const { system, units } = useSettings();
  const step = Math.min(PUMP.height + PUMP.gap, 250 / Math.max(1, dry.stages.length));
  const top = (at: number): number => PUMP.y + 8 + at * step;
  const last = top(dry.stages.length - 1) + 18;
  const all = moment.flows.reduce((sum, flow) => sum + flow, 0);
  const oil = moment.flows.reduce((sum, flow, at) => sum + flow * (moment.shares[at] ?? 0), 0);
  return (
    <g>
      {dry.stages.map((stage, at) => {
        const share = moment.shares[at] ?? 0;
        const flow = flowAs(units, system, moment.flows[at] ?? 0);
        const y = top(at) + 18;
        return (
          <g key={stage.id} data-stage={at}>
            <Line from={[PAN.x + PAN.width + 10, y]} to={[PUMP.x, y]} oil={share} />
            <Line from={[PUMP.x + PUMP.width, y]} to={[RETURN_X, y]} oil={share} />
            <rect
              x={PUMP.x}
              y={y - 17}
              width={PUMP.width}
              height="34"
              fill="var(--metal-2)"
              stroke="var(--ink)"
            />
            <circle cx={PUMP.x + 24} cy={y} r="10" fill="var(--metal)" stroke="var(--ink)" />
            <circle cx={PUMP.x + 42} cy={y} r="10" fill="var(--metal)" stroke="var(--ink)" />
            <text x={PUMP.x - 6} y={y - 11} fontSize="13" textAnchor="end" fill="var(--ink)">
              <tspan fontWeight="600">
                {at + 1} {stage.name}
              </tspan>
            </text>
            <text x={PUMP.x - 6} y={y + 21} fontSize="12" textAnchor="end" fill="var(--ink-2)">
              {flow.figure} {flow.unit}
            </text>
            <text
              x={PUMP.x + PUMP.width + 6}
              y={y - 11}
              fontSize="13"
              fontWeight="600"
              fill={share < 0.05 ? "var(--air-ink)" : "var(--ink)"}
            >
              {oilWord(share)}
            </text>
          </g>
        );
      })}
      <Line
        from={[RETURN_X, top(0) + 11]}
        to={[RETURN_X, Math.max(last + 7, 150)]}
        oil={all > 0 ? oil / all : 0}
        wide={18}
      />
    </g>
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
  const parts = [
    ...(dry.tank.has_separator ? ["separator"] : []),
    ...(dry.tank.has_cooler ? ["cooler"] : []),
  ];
  const all = moment.flows.reduce((sum, flow) => sum + flow, 0);
  const oil = moment.flows.reduce((sum, flow, at) => sum + flow * (moment.shares[at] ?? 0), 0);
  const share = all > 0 ? oil / all : 0;
  const y = 60;
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="block h-auto w-full font-figure"
      role="img"
      aria-label="The dry sump at this moment"
    >
      <PanFromAbove dry={dry} moment={moment} wet={wet} />
      <Stages dry={dry} moment={moment} />
      <Tank dry={dry} moment={moment} lean={lean} />
      <Line from={[RETURN_X, y]} to={[TANK.x + 20, y]} oil={share} />
      {parts.map((part, at) => (
        <g key={part}>
          <rect
            x={RETURN_X + 22 + at * 58}
            y={y - 20}
            width="50"
            height="40"
            fill="var(--metal-2)"
            stroke="var(--ink)"
          />
          <text
            x={RETURN_X + 47 + at * 58}
            y={y - 26}
            fontSize="12"
            textAnchor="middle"
            fill="var(--ink)"
          >
            {part}
          </text>
        </g>
      ))}
      <Line from={[TANK.x + 20, y - 7]} to={[TANK.x + 20, TANK.y + 14]} oil={share} />
      <Line from={[TANK.x + 46, TANK.y + TANK.height]} to={[TANK.x + 46, 318]} oil={1} />
      <Line from={[PUMP.x + 20, 312]} to={[TANK.x + 53, 312]} oil={1} />
      <rect
        x={PUMP.x - 40}
        y="294"
        width={PUMP.width}
        height="36"
        fill="var(--metal-2)"
        stroke="var(--ink)"
      />
      <circle cx={PUMP.x - 16} cy="312" r="10" fill="var(--metal)" stroke="var(--ink)" />
      <circle cx={PUMP.x + 2} cy="312" r="10" fill="var(--metal)" stroke="var(--ink)" />
      <Line from={[PUMP.x - 110, 312]} to={[PUMP.x - 40, 312]} oil={1} />
      <path d={`M${PUMP.x - 112} 305v14l-11 -7z`} fill="var(--oil-deep)" />
      <text x={PUMP.x - 46} y="290" fontSize="13" textAnchor="end" fill="var(--ink)">
        pressure stage, to filter and gallery
      </text>
    </svg>
  );
}
