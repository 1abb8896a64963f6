import { describe, expect, it } from "vitest";
import { WALL } from "../../testing/drains";
import { edgeAt, entryAt, placeAt, sidesOf, zoneOf } from "./wall";

describe("the wall unrolled", () => {
  it("is under oil, marginal or sound", () => {
    expect(zoneOf(-1, 10)).toBe("under");
    expect(zoneOf(0, 10)).toBe("marginal");
    expect(zoneOf(9.9, 10)).toBe("marginal");
    expect(zoneOf(10, 10)).toBe("sound");
    expect(zoneOf(null, 10)).toBe("none");
  });

  it("has its sides one after the other", () => {
    expect(sidesOf(WALL).map(({ side }) => side)).toEqual(["left", "front"]);
    expect(sidesOf(WALL)[0]).toMatchObject({ fromMm: 0, toMm: 100 });
  });

  it("has an edge between the heights that are told", () => {
    // clear of oil at -40 by -10, at 0 by 30: by nothing at -30
    expect(edgeAt(WALL, 0)[0]).toBeCloseTo(-30);
    expect(edgeAt(WALL, 10)[0]).toBeCloseTo(-20);
    expect(edgeAt(WALL, 500)[0]).toBeNull();
  });

  it("gives the place that is tapped as an entry", () => {
    const found = placeAt(WALL, 160, -2);
    expect(found).toMatchObject({ index: 1, row: 2, clear: 20, blocked: true });
    expect(entryAt(WALL, found.index, -2)).toEqual([150, -112, 2]);
  });
});
