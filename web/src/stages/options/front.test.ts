import { describe, expect, it } from "vitest";
import { OPTIONS } from "../../testing/options";
import { along, frontOf, keptApart, lettered, pointsOf } from "./front";

const point = (key: string, takes: number, dry: number) => ({
  key,
  letter: key,
  title: key,
  takes,
  dry,
  holds: false,
});

describe("the front of dry time", () => {
  it("keeps what nothing cheaper matches by more than starts differ", () => {
    const points = [point("a", 10, 5), point("b", 20, 4.71), point("c", 30, 4.6)];
    expect([...frontOf(points, 0.3)]).toEqual(["a", "c"]);
  });

  it("takes cost, hours, and the ground that is lost", () => {
    expect(pointsOf(OPTIONS, "cost").map(({ takes }) => takes)).toEqual([16, 16]);
    expect(pointsOf(OPTIONS, "hours").map(({ takes }) => takes)).toEqual([0.3, 0.3]);
    expect(pointsOf(OPTIONS, "ground").map(({ takes }) => takes)).toEqual([0, 0]);
  });

  it("draws money by its root, all else evenly", () => {
    expect(along(25, 100, "cost")).toBeCloseTo(0.5);
    expect(along(25, 100, "hours")).toBeCloseTo(0.25);
    expect(along(3, 0, "hours")).toBe(0);
  });
});

describe("marks kept apart", () => {
  it("leaves the first where it is and lays none on another, all in the room", () => {
    const wanted = Array.from({ length: 30 }, (_, i) => ({ x: 100 + (i % 3), y: 90 + (i % 2) }));
    const room = { width: 280, height: 210 };
    const spots = keptApart(wanted, 20, room);
    expect(spots[0]).toEqual(wanted[0]);
    spots.forEach((one, at) => {
      expect(one.x).toBeGreaterThanOrEqual(10);
      expect(one.x).toBeLessThanOrEqual(room.width - 10);
      expect(one.y).toBeGreaterThanOrEqual(10);
      expect(one.y).toBeLessThanOrEqual(room.height - 10);
      for (const other of spots.slice(at + 1))
        expect(Math.abs(one.x - other.x) >= 20 || Math.abs(one.y - other.y) >= 20).toBe(true);
    });
  });
});

describe("letters of marks", () => {
  const room = { width: 280, height: 210 };
  it("gives one to all that matter, to others where they are free, to the rest a dot", () => {
    const crowd = [100, 104, 108, 160].map((x) => ({ x, y: 90 }));
    const spots = lettered(crowd, 2, 20, room);
    expect(spots[0]).toEqual(crowd[0]);
    expect(spots[1]).not.toBeNull();
    expect(spots[1]).not.toEqual(crowd[1]);
    expect(spots[2]).toBeNull();
    expect(spots[3]).toEqual(crowd[3]);
  });
  it("keeps those at an edge in the room", () => {
    expect(lettered([{ x: 50, y: 0 }], 0, 20, room)).toEqual([{ x: 50, y: 10 }]);
  });
});
