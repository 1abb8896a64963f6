// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { tipped } from "./LoadDial";
import { LoadPad } from "./LoadPad";
import type { Load } from "./rose";

const rose = {
  thrown_deg: [0, 90, 180, 270],
  dry_from_g: [1, 1, 0.6, null],
  limit_g: 2.5,
};
const samples = {
  time_s: [0, 1],
  side_g: [0.2, 1.3],
  fore_g: [0, 0.4],
  speed_km_h: [90, 90],
  cover_mm: [20, -5],
  gas_share: [0, 1],
  normals: [],
  level_mm: [],
  to_cover_l: [],
  distance_m: [],
};

function pad(load: Load, onLoad = vi.fn(), held: (number | null)[] | null = null) {
  show(
    <LoadPad
      rose={rose}
      samples={samples}
      load={load}
      steady={false}
      held={held}
      rim={1.6}
      size={240}
      onLoad={onLoad}
    />,
  );
  return { element: screen.getByRole("slider", { name: "Load pad" }), onLoad };
}

describe("LoadPad", () => {
  it("says its load in words", () => {
    const { element } = pad({ sideG: 1.2, foreG: -0.3 });
    expect(element.getAttribute("aria-valuetext")).toBe("1.20 g left turn, 0.30 g braking");
    expect(element.getAttribute("aria-valuenow")).toBe("1.24");
  });
  it("marks what lies outside the edge by shape", () => {
    const { element } = pad({ sideG: 0, foreG: 0 });
    expect(element.querySelectorAll("[data-cloud=dry]")).toHaveLength(1);
    expect(element.querySelector("[data-rose-edge]")).not.toBeNull();
    expect(element.querySelector("[data-held-edge]")).toBeNull();
  });
  it("draws the thin edge when there is one", () => {
    const { element } = pad({ sideG: 0, foreG: 0 }, vi.fn(), [0.4, 0.4, 0.2, null]);
    expect(element.querySelector("[data-held-edge]")).not.toBeNull();
  });
  it("is tipped by keys and held to its rim", () => {
    const { element, onLoad } = pad({ sideG: 1.58, foreG: 0 });
    fireEvent.keyDown(element, { key: "ArrowRight" });
    expect(onLoad).toHaveBeenLastCalledWith({ sideG: 1.6, foreG: 0 });
    fireEvent.keyDown(element, { key: "ArrowUp", shiftKey: true });
    expect(onLoad.mock.lastCall?.[0]).toEqual({ sideG: 1.58, foreG: -0.2 });
    fireEvent.keyDown(element, { key: "x" });
    expect(onLoad).toHaveBeenCalledTimes(2);
  });
});

describe("tipped", () => {
  it("knows the pad's keys and no others", () => {
    const from = { sideG: 0, foreG: 0 };
    expect(tipped(from, "ArrowLeft", false)?.sideG).toBeCloseTo(-0.05);
    expect(tipped(from, "ArrowDown", true)?.foreG).toBeCloseTo(0.2);
    expect(tipped({ sideG: 1, foreG: 1 }, "Home", false)).toEqual(from);
    expect(tipped(from, "Enter", false)).toBeNull();
  });
});
