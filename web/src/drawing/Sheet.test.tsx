// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { BOX } from "../testing/drawings";
import { SETTINGS } from "../testing/settings";
import { show } from "../testing/shown";
import { Sheet } from "./Sheet";
import type { OilSurface } from "./views";

const LEVEL: OilSurface = { normal: [0, 0, 1], level_mm: -90 };

function sheet(change: Partial<Parameters<typeof Sheet>[0]> = {}, settings = SETTINGS) {
  const { container } = show(
    <Sheet
      drawing={BOX}
      oil={LEVEL}
      airy={false}
      words="5 L standing"
      callout={["5.0 L", "in the pan"]}
      width={900}
      height={600}
      only={null}
      {...change}
    />,
    settings,
  );
  return container;
}
/** Corners of a path. */
const corners = (path: Element | null): [number, number][] =>
  [...(path?.getAttribute("d") ?? "").matchAll(/(-?[\d.]+)[ ,](-?[\d.]+)/g)].map((match) => [
    Number(match[1]),
    Number(match[2]),
  ]);
const spread = (numbers: number[]): number => Math.max(...numbers) - Math.min(...numbers);

describe("Sheet", () => {
  it("draws the three views at one scale", () => {
    const page = sheet();
    const side = corners(page.querySelector("[data-oil=side]"));
    const front = corners(page.querySelector("[data-oil=front]"));
    // 400 x 50 mm of oil from the side, 240 x 50 mm from the front
    const scale = spread(side.map(([x]) => x)) / 400;
    expect(spread(side.map(([, y]) => y)) / scale).toBeCloseTo(50, 0);
    expect(spread(front.map(([x]) => x)) / scale).toBeCloseTo(240, 0);
    expect(spread(front.map(([, y]) => y)) / scale).toBeCloseTo(50, 0);
  });

  it("tips the oil with the surface", () => {
    const page = sheet({ oil: { normal: [0, 0.2, 0.98], level_mm: -88 } });
    const front = corners(page.querySelector("[data-oil=front]"));
    const heights = new Set(front.map(([, y]) => Math.round(y)));
    expect(heights.size).toBe(3); // floor, and two ends of a surface that is level no more
  });

  it("gives its dimensions in the units in use", () => {
    const metric = sheet();
    const said = [...metric.querySelectorAll("text")].map((text) => text.textContent);
    expect(said).toContain("400");
    expect(said).toContain("240");
    expect(said).toContain("140");
    const us = sheet({}, { ...SETTINGS, system: "us" });
    expect([...us.querySelectorAll("text")].map((text) => text.textContent)).toContain("15.75");
  });

  it("shows one view alone, larger", () => {
    const all = corners(sheet().querySelector("[data-oil=side]"));
    const one = sheet({ only: "side" });
    expect(one.querySelector("[data-oil=front]")).toBeNull();
    const alone = corners(one.querySelector("[data-oil=side]"));
    expect(spread(alone.map(([x]) => x))).toBeGreaterThan(spread(all.map(([x]) => x)));
  });

  it("stacks its views on a phone", () => {
    const page = sheet({ width: 360 });
    const [side, front] = ["side", "front"].map((view) =>
      corners(page.querySelector(`[data-oil=${view}]`)),
    );
    const lowestOfSide = Math.max(...(side ?? []).map(([, y]) => y));
    expect(Math.min(...(front ?? []).map(([, y]) => y))).toBeGreaterThan(lowestOfSide);
  });

  it("is a picture, and a group once there is something on it to take hold of", () => {
    sheet();
    expect(screen.getByRole("img", { name: "5 L standing" })).toBeTruthy();
    sheet({ over: (at) => <circle data-over={at.view} />, words: "with grips" });
    expect(
      screen.getByRole("group", { name: "with grips" }).querySelectorAll("[data-over]"),
    ).toHaveLength(3);
  });

  it("hatches the pickup that draws air, besides its colour", () => {
    const calm = sheet().querySelectorAll("path[stroke='var(--air-ink)']").length;
    const airy = sheet({ airy: true }).querySelectorAll("path[stroke='var(--air-ink)']").length;
    expect(calm).toBe(0);
    expect(airy).toBe(3);
  });

  it("says where the nose is when it is not the car's front", () => {
    const page = sheet({ drawing: { ...BOX, nose_points: "right" } });
    expect(page.textContent).toContain("crank's nose, right in the car");
  });
});
