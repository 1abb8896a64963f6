import { expect, it } from "vitest";
import { BELT, DRIVE } from "../../testing/dry";
import { drivePlan, type DrivePlan } from "./drivePlan";

const OUTLINE = [
  [0, -60],
  [300, -60],
  [300, 60],
  [0, 60],
] as const;
const PAN = { outline: OUTLINE, depthMm: 70, crankMm: 50 };

const wheelAt = (plan: DrivePlan, name: string): DrivePlan["wheels"][number] => {
  const found = plan.wheels.find((wheel) => wheel.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};
type Corners = readonly (readonly [number, number])[] | null;
const mean = (corners: Corners, axis: 0 | 1): number =>
  (corners ?? []).reduce((sum, corner) => sum + corner[axis], 0) / (corners?.length ?? 1);

it("draws both pulleys to one scale, left of the engine to the right", () => {
  const plan = drivePlan(DRIVE, BELT, PAN, 400);
  const [crank, pump] = [wheelAt(plan, "crank"), wheelAt(plan, "pump")];
  expect(pump.at[0] - crank.at[0]).toBeCloseTo(100 * plan.scale);
  expect(crank.at[1]).toBeCloseTo(pump.at[1]);
  expect(crank.r).toBeCloseTo(30 * plan.scale);
  expect((plan.pan?.rail ?? 0) - crank.at[1]).toBeCloseTo(50 * plan.scale);
  expect((plan.pan?.floor ?? 0) - (plan.pan?.rail ?? 0)).toBeCloseTo(70 * plan.scale);
});

it("goes round the far side of each wheel, and over the back of an idler the other way", () => {
  const arcs = (path: string): string[] =>
    [...path.matchAll(/A[\d.]+ [\d.]+ 0 (\d) (\d)/g)].map(([, large, way]) => `${large}${way}`);
  expect(arcs(drivePlan(DRIVE, BELT, PAN, 400).belt)).toEqual(["00", "00"]);
  const idler = { name: "idler", teeth: null, is_inside: false, wrap_deg: 40 } as const;
  const three = {
    ...DRIVE,
    wheels: [
      ...DRIVE.wheels.map((wheel) => ({ ...wheel, wrap_deg: 200 })),
      { ...idler, across_mm: 50, up_mm: 40, radius_mm: 12 },
    ],
    straights_mm: [...DRIVE.straights_mm, ...DRIVE.straights_mm.slice(1)],
  };
  expect(arcs(drivePlan(three, BELT, PAN, 400).belt)).toEqual(["10", "01", "10"]);
});

it("draws from above how far the pump's pulley is ahead, and its body turned behind it", () => {
  const { above, scale } = drivePlan(DRIVE, BELT, PAN, 400);
  expect(mean(above.crank, 1) - mean(above.pump, 1)).toBeCloseTo(2 * scale);
  expect(mean(above.body, 1)).toBeGreaterThan(mean(above.pump, 1));
  const turned = drivePlan(DRIVE, { ...BELT, turned_deg: 5 }, PAN, 400).above;
  // its front turned to the engine's left, its body goes to the right: left on the page
  expect(mean(turned.body, 0)).toBeLessThan(mean(turned.pump, 0));
});

it("leaves out what is not known", () => {
  const plan = drivePlan(DRIVE, { ...BELT, body: null }, { ...PAN, crankMm: null }, 400);
  expect(plan.pan).toBeNull();
  expect(plan.body).toBeNull();
  expect(plan.above.body).toBeNull();
});
