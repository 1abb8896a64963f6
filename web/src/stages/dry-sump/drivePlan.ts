import type { Drive } from "../../api/dry";
import type { BuildOut } from "../../api/queries";
import type { Point } from "../../drawing/geometry";

export type BeltDrive = NonNullable<BuildOut["document"]["drive"]>;

/** Where a belt drive is drawn: from ahead above, from above below it, both to one scale. */
export interface DrivePlan {
  width: number;
  height: number;
  /** Pixels a millimetre. */
  scale: number;
  wheels: { name: Drive["wheels"][number]["name"]; teeth: number | null; at: Point; r: number }[];
  belt: string;
  body: { at: Point; r: number } | null;
  /** The rail and the pan's floor, where the crank's height is known. */
  pan: { left: number; right: number; rail: number; floor: number } | null;
  /** From above: each pulley as a bar, the pump's body behind its own. */
  above: {
    y: number;
    crank: readonly Point[];
    pump: readonly Point[];
    body: readonly Point[] | null;
    /** The crank's pulley middle, on over to the pump. */
    straightEdge: readonly [Point, Point];
  };
}

const EDGE = 44;
const TOP = 54;
const BETWEEN = 64;
const MOST = 210;
const BEHIND_MM = 10; // from a pulley to the body behind it

/** The belt as a path: straight, round a wheel, straight again. */
function beltPath(drive: Drive, to: (across: number, up: number) => Point): string {
  const count = drive.wheels.length;
  const scale = Math.abs(to(1, 0)[0] - to(0, 0)[0]);
  const spot = ([across, up]: readonly [number, number]): string =>
    to(across, up)
      .map((each) => each.toFixed(1))
      .join(" ");
  const parts = drive.straights_mm.map((straight, at) => {
    const wheel = drive.wheels[(at + 1) % count];
    const next = drive.straights_mm[(at + 1) % count]?.[0];
    const [start, end] = straight;
    if (!wheel || !next || !start || !end) return "";
    const r = (wheel.radius_mm * scale).toFixed(1);
    const arc = `A${r} ${r} 0 ${Number(wheel.wrap_deg > 180)} ${Number(!wheel.is_inside)} ${spot(next)}`;
    return `${at === 0 ? `M${spot(start)}` : ""}L${spot(end)}${arc}`;
  });
  return `${parts.join("")}Z`;
}

/** A bar about a shaft, from above: half its length and where along the crank it lies, turned. */
function bar(
  [x, y]: Point,
  half: number,
  from: number,
  to: number,
  turnedDeg: number,
): readonly Point[] {
  const turned = (turnedDeg * Math.PI) / 180;
  const corners: readonly (readonly [number, number])[] = [
    [-half, from],
    [half, from],
    [half, to],
    [-half, to],
  ];
  // ahead is up the page; turned is to the engine's left, which is to the right seen from ahead
  return corners.map(([aside, ahead]) => [
    x + aside * Math.cos(turned) + ahead * Math.sin(turned),
    y - (ahead * Math.cos(turned) - aside * Math.sin(turned)),
  ]);
}

/** Both pulleys and the pump from above: the crank's at a height of the sheet. */
function fromAbove(
  told: BeltDrive,
  wheels: DrivePlan["wheels"],
  y: number,
  scale: number,
): DrivePlan["above"] {
  const of = (name: string): { x: number; r: number } => {
    const found = wheels.find((wheel) => wheel.name === name);
    return { x: found?.at[0] ?? 0, r: found?.r ?? 0 };
  };
  const [crank, pump] = [of("crank"), of("pump")];
  const half = (told.width_mm / 2) * scale;
  const back = half + BEHIND_MM * scale;
  const at: Point = [pump.x, y - told.offset_mm * scale];
  const { body, turned_deg: turned } = told;
  return {
    y,
    crank: bar([crank.x, y], crank.r, -half, half, 0),
    pump: bar(at, pump.r, -half, half, turned),
    body: body
      ? bar(at, (body.diameter_mm / 2) * scale, -back - body.length_mm * scale, -back, turned)
      : null,
    straightEdge: [
      [Math.min(crank.x, pump.x) - EDGE / 2, y],
      [Math.max(crank.x, pump.x) + EDGE / 2, y],
    ],
  };
}

/** The pan that a drive stands before: its outline, and how high the crank is over its rail. */
interface PanMm {
  outline: readonly (readonly [number, number])[];
  depthMm: number;
  crankMm: number | null;
}

/** Where everything of a drive is drawn on a sheet of a width. */
export function drivePlan(drive: Drive, told: BeltDrive, pan: PanMm, width: number): DrivePlan {
  const bodyMm = (told.body?.diameter_mm ?? 0) / 2;
  const round = drive.wheels.map(({ across_mm: x, up_mm: y, radius_mm: r, name }) => ({
    x,
    y,
    r: name === "pump" ? Math.max(r, bodyMm) : r,
  }));
  const low = Math.min(...round.map(({ x, r }) => x - r));
  const high = Math.max(...round.map(({ x, r }) => x + r));
  const top = Math.max(...round.map(({ y, r }) => y + r));
  const floor = Math.min(...round.map(({ y, r }) => y - r));
  const scale = Math.min((width - 2 * EDGE) / (high - low), MOST / (top - floor), 1.6);
  const left = (width - (high - low) * scale) / 2;
  const to = (across: number, up: number): Point => [
    left + (across - low) * scale,
    TOP + (top - up) * scale,
  ];
  const wheels = drive.wheels.map(({ name, teeth, across_mm, up_mm, radius_mm }) => ({
    name,
    teeth,
    at: to(across_mm, up_mm),
    r: radius_mm * scale,
  }));
  const half = told.width_mm / 2;
  const y = TOP + (top - floor + half + Math.max(0, told.offset_mm)) * scale + BETWEEN;
  const long = half + BEHIND_MM + (told.body?.length_mm ?? 0) - Math.min(0, told.offset_mm);
  const ys = pan.outline.map(([, across]) => across);
  return {
    width,
    height: y + long * scale + 16,
    scale,
    wheels,
    belt: beltPath(drive, to),
    body: told.body
      ? { at: wheels.find(({ name }) => name === "pump")?.at ?? [0, 0], r: bodyMm * scale }
      : null,
    pan:
      pan.crankMm === null
        ? null
        : {
            left: Math.max(4, to(Math.min(...ys), 0)[0]),
            right: Math.min(width - 4, to(Math.max(...ys), 0)[0]),
            rail: to(0, -pan.crankMm)[1],
            floor: to(0, -pan.crankMm - pan.depthMm)[1],
          },
    above: fromAbove(told, wheels, y, scale),
  };
}
