// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { beforeAll, describe, expect, it, vi } from "vitest";
import { DUNLIN } from "../testing/documents";
import { BOX, placed } from "../testing/drawings";
import { SETTINGS } from "../testing/settings";
import { show } from "../testing/shown";
import { gripsOf, type Grip } from "./drag";
import { Fitted } from "./Fitted";
import { Grips } from "./Grips";
import type { ViewName } from "./views";

beforeAll(() => {
  Element.prototype.setPointerCapture = () => undefined;
});

const FLOOR: Grip = {
  key: "floor",
  words: "floor of box",
  view: "side",
  ends: [
    [0, -140],
    [400, -140],
  ],
  axis: 1,
  sets: [{ axis: 1, sign: -1, fields: ["pan.zones.0.floor.depth_mm"] }],
};
const MOUTH: Grip = {
  key: "mouth",
  words: "mouth",
  view: "plan",
  ends: [[200, 0]],
  axis: null,
  sets: [
    { axis: 0, sign: 1, fields: ["pickup.x_mm"] },
    { axis: 1, sign: 1, fields: ["pickup.y_mm"] },
  ],
};

function grips(view: ViewName, system: "metric" | "us" = "metric") {
  const onMove = vi.fn();
  show(
    <svg>
      <Grips drawing={BOX} at={placed(view)} grips={[FLOOR, MOUTH]} onMove={onMove} />
    </svg>,
    { ...SETTINGS, system },
  );
  return onMove;
}
function drag(name: string, dx: number, dy: number): void {
  const grip = screen.getByRole("button", { name });
  fireEvent.pointerDown(grip, { clientX: 100, clientY: 100, pointerId: 1 });
  fireEvent.pointerMove(grip, { clientX: 100 + dx, clientY: 100 + dy, pointerId: 1 });
  fireEvent.pointerUp(grip, { clientX: 100 + dx, clientY: 100 + dy, pointerId: 1 });
}

describe("Grips", () => {
  it("shows those of its own view", () => {
    grips("side");
    expect(screen.queryByRole("button", { name: "Move the mouth" })).toBeNull();
    expect(screen.getByRole("button", { name: "Move the floor of box" })).toBeTruthy();
  });

  it("drags a floor down, whole millimetres, along its own way only", () => {
    const onMove = grips("side");
    drag("Move the floor of box", 33, 12.4);
    expect(onMove).toHaveBeenCalledExactlyOnceWith(
      [{ fields: ["pan.zones.0.floor.depth_mm"], mm: 152 }],
      "floor of box",
    );
  });

  it("drags a point both ways: nose left on the page, left of the engine down", () => {
    const onMove = grips("plan");
    drag("Move the mouth", -20, 7);
    expect(onMove.mock.lastCall?.[0]).toEqual([
      { fields: ["pickup.x_mm"], mm: 220 },
      { fields: ["pickup.y_mm"], mm: 7 },
    ]);
  });

  it("does nothing for a press without a move", () => {
    const onMove = grips("plan");
    drag("Move the mouth", 0, 0);
    expect(onMove).not.toHaveBeenCalled();
  });

  it("gives up when the pointer is taken away", () => {
    const onMove = grips("side");
    const grip = screen.getByRole("button", { name: "Move the floor of box" });
    fireEvent.pointerDown(grip, { clientX: 0, clientY: 0, pointerId: 1 });
    fireEvent.pointerMove(grip, { clientX: 0, clientY: 40, pointerId: 1 });
    fireEvent.pointerCancel(grip, { pointerId: 1 });
    fireEvent.pointerUp(grip, { clientX: 0, clientY: 40, pointerId: 1 });
    expect(onMove).not.toHaveBeenCalled();
  });

  it("is nudged by the arrow keys by the grid of the units in use", () => {
    const onMove = grips("side", "us");
    fireEvent.keyDown(screen.getByRole("button", { name: "Move the floor of box" }), {
      key: "ArrowDown",
    });
    const [[figure]] = onMove.mock.lastCall as [{ mm: number }[]];
    expect(((figure?.mm ?? 0) / 25.4) * 32).toBeCloseTo(
      Math.round(((figure?.mm ?? 0) / 25.4) * 32),
      2,
    );
    expect(figure?.mm).toBeGreaterThan(140.5);
  });
});

describe("what can be taken hold of", () => {
  const all = gripsOf(
    DUNLIN,
    { x: 322, y: -12 },
    (zone) => {
      const xs = zone.outline_mm.map(([x]) => x);
      const ys = zone.outline_mm.map(([, y]) => y);
      return {
        rear: Math.min(...xs),
        front: Math.max(...xs),
        right: Math.min(...ys),
        left: Math.max(...ys),
      };
    },
    (index, side) => [`zone ${index === 1 && side === "front" ? "0 rear" : `${index} ${side}`}`],
  );
  it("has a shared edge once", () => {
    expect(all.filter(({ key }) => key === "zone-z4-rear")).toHaveLength(1);
    expect(all.some(({ key }) => key === "zone-z5-front")).toBe(false);
  });
  it("has floors where the sections go through them", () => {
    const floors = all.filter(({ key }) => key.startsWith("floor")).map(({ key }) => key);
    expect(floors).toContain("floor-z4-side");
    expect(floors).toContain("floor-z4-front");
    expect(floors).not.toContain("floor-z6-front"); // the shelf is not at the mouth's x
  });
  it("has the mouth, both ends of upright plates, and the bosses", () => {
    const keys = all.map(({ key }) => key);
    expect(keys).toContain("mouth");
    expect(keys.filter((key) => key.startsWith("plate-"))).toHaveLength(8);
    expect(keys.filter((key) => key.startsWith("boss-"))).toHaveLength(2);
  });
});

describe("Fitted", () => {
  const clearances = [
    {
      name: "rack",
      index: 0,
      gap_mm: 28,
      wanted_mm: 30,
      at_mm: [400, 0, -70] as [number, number, number],
      to_mm: [430, 0, -70] as [number, number, number],
    },
  ];
  const fitted = (view: ViewName, rows: typeof clearances | null = clearances) =>
    show(
      <svg>
        <Fitted drawing={BOX} document={DUNLIN} clearances={rows} at={placed(view)} />
      </svg>,
    ).container;

  it("draws a gap where it is best seen, and says that it is short", () => {
    expect(fitted("side").querySelector("[data-gap=rack]")?.textContent).toBe("! 28 mm");
    expect(fitted("front").querySelector("[data-gap]")).toBeNull();
  });
  it("draws what is round it from above and in the section of its gap", () => {
    expect(fitted("plan").querySelector("[data-around=rack]")).not.toBeNull();
    expect(fitted("side").querySelector("[data-around=rack]")).not.toBeNull();
    expect(fitted("front").querySelector("[data-around=rack]")).toBeNull();
    expect(fitted("plan", null).querySelector("[data-around]")).toBeNull();
    // nobody measured where it is: it has no gap, and is seen from everywhere
    expect(fitted("front", []).querySelector("[data-around=rack]")).not.toBeNull();
    expect(fitted("front", []).querySelector("[data-gap]")).toBeNull();
  });
  it("draws the crank as a circle from the front, from the side what it sweeps under its line", () => {
    const circle = fitted("front").querySelector("[data-crank] circle");
    expect(circle?.getAttribute("r")).toBe("80");
    expect(circle?.getAttribute("cy")).toBe("240"); // 60 mm above the rail, which is at 300
    const [swept, line] = [...fitted("side").querySelectorAll("[data-crank] path")].map((each) =>
      Math.min(
        ...[...(each.getAttribute("d") ?? "").matchAll(/[ ,]([\d.]+)/g)].map(([, y]) => Number(y)),
      ),
    );
    expect([swept, line]).toEqual([240, 240]); // nothing over the centreline
  });
  it("draws bosses by name, a blocked one crossed", () => {
    const shown = fitted("side");
    expect(shown.querySelector("[data-boss='drain plug'] circle")?.getAttribute("cy")).toBe("438");
  });
});
