import { describe, expect, it } from "vitest";
import { edgePlaces, heldEdge, loadAt, loadWords, placeOf, type Dial } from "./rose";

const dial: Dial = { size: 200, radius: 80, rim: 1.6 };

describe("the dial", () => {
  it("puts a left turn right and braking up", () => {
    const [x] = placeOf(dial, { sideG: 1, foreG: 0 });
    const [, y] = placeOf(dial, { sideG: 0, foreG: -1 });
    expect(x).toBe(150);
    expect(y).toBe(50);
  });
  it("reads the load back, held to the rim", () => {
    const load = { sideG: 0.5, foreG: -0.75 };
    expect(loadAt(dial, placeOf(dial, load))).toEqual(load);
    expect(loadAt(dial, [100, 0])).toEqual({ sideG: 0, foreG: -1.6 });
  });
});

describe("edges", () => {
  const thrown = [0, 90, 180, 270];
  it("lie where the oil is thrown", () => {
    const places = edgePlaces(dial, thrown, [0.8, 0.8, 0.8, null]);
    expect(places[0]?.map(Math.round)).toEqual([100, 60]); // forward: braking, up
    expect(places[1]?.map(Math.round)).toEqual([60, 100]); // thrown left: a right turn
    expect(places[3]?.[0]).toBeGreaterThan(200); // holds: beyond the rim
  });
  it("are interpolated between held volumes", () => {
    const rose = { thrown_deg: [0, 180], dry_from_g: [1, 1], limit_g: 2.5 };
    const held = {
      zone: 0,
      volumes_l: [0, 1, 2],
      dry_from_g: [
        [0, 0],
        [0.4, 0.5],
        [0.8, null],
      ],
    };
    expect(heldEdge(held, rose, 0.5)).toEqual([0.2, 0.25]);
    expect(heldEdge(held, rose, 1.25)[0]).toBeCloseTo(0.5);
    expect(heldEdge(held, rose, 1.25)[1]).toBe(0.5);
    expect(heldEdge(held, rose, 5)).toEqual([0.8, null]);
  });
});

describe("loadWords", () => {
  it("says which way the car goes", () => {
    expect(loadWords({ sideG: -1.2, foreG: -0.3 })).toBe("1.20 g right turn, 0.30 g braking");
    expect(loadWords({ sideG: 0, foreG: 0 })).toBe("no load");
  });
});
