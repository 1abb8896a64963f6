// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { SETTINGS } from "../testing/settings";
import { show } from "../testing/shown";
import { LevelCurve } from "./LevelCurve";

const fill = {
  normal: [0, 0, 1] as [number, number, number],
  lowest_mm: -140,
  curve_l_mm: [
    [0, 0],
    [5, 60],
    [10, 100],
  ] as [number, number][],
};

function curve(litres: number, onLitres = vi.fn(), settings = SETTINGS) {
  show(
    <LevelCurve
      fill={fill}
      marks={[]}
      dips={[{ poured_l: 3, dipped_mm: 40, computed_mm: 36 }]}
      litres={litres}
      heightMm={60}
      width={300}
      height={200}
      onLitres={onLitres}
    />,
    settings,
  );
  return { slider: screen.getByRole("slider", { name: "Fill of the pan" }), onLitres };
}

describe("LevelCurve", () => {
  it("says fill and level, in the units in use", () => {
    expect(curve(5).slider.getAttribute("aria-valuetext")).toBe(
      "5.0 L, 60 mm above the lowest point",
    );
  });
  it("does so in US units too", () => {
    const { slider } = curve(5, vi.fn(), { ...SETTINGS, system: "us" });
    expect(slider.getAttribute("aria-valuetext")).toBe("5.3 qt, 2.36 in above the lowest point");
  });
  it("is filled and emptied by keys, never beyond what it holds", () => {
    const { slider, onLitres } = curve(9.95);
    fireEvent.keyDown(slider, { key: "ArrowUp" });
    expect(onLitres).toHaveBeenLastCalledWith(10);
    fireEvent.keyDown(slider, { key: "ArrowDown" });
    expect(onLitres).toHaveBeenLastCalledWith(9.85);
    fireEvent.keyDown(slider, { key: "Home" });
    expect(onLitres).toHaveBeenLastCalledWith(0);
    fireEvent.keyDown(slider, { key: "Tab" });
    expect(onLitres).toHaveBeenCalledTimes(3);
  });
  it("crosses what was poured and dipped", () => {
    expect(curve(5).slider.querySelectorAll("[data-dip-point]")).toHaveLength(1);
  });
});
