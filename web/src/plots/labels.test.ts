import { describe, expect, it } from "vitest";
import { isInside, overDisc, placeLabel, type Place } from "./labels";

const square: Place[] = [
  [0, 0],
  [10, 0],
  [10, 10],
  [0, 10],
];

describe("isInside", () => {
  it("tells inside from outside", () => {
    expect(isInside(square, [5, 5])).toBe(true);
    expect(isInside(square, [15, 5])).toBe(false);
  });
});

describe("placeLabel", () => {
  const box = { width: 20, height: 8 };
  const may = ([x]: Place): boolean => x > 0;
  it("keeps the whole box where it may stand", () => {
    const found = placeLabel(
      box,
      [
        [5, 0],
        [15, 0],
      ],
      may,
      [],
      [],
    );
    expect(found).toEqual([15, 0]);
  });
  it("covers the fewest marks, then keeps away from what must stay clear", () => {
    const marks: Place[] = [[50, 0]];
    expect(
      placeLabel(
        box,
        [
          [50, 0],
          [50, 40],
        ],
        may,
        marks,
        [],
      ),
    ).toEqual([50, 40]);
    expect(
      placeLabel(
        box,
        [
          [50, 40],
          [50, 80],
        ],
        may,
        marks,
        [[50, 10]],
      ),
    ).toEqual([50, 80]);
  });
  it("gives up when there is no room", () => {
    expect(placeLabel(box, [[5, 0]], may, [], [])).toBeNull();
    expect(placeLabel(box, [[50, 0]], may, [], [[50, 0]])).toBeNull();
  });
});

describe("overDisc", () => {
  it("stays on the disc", () => {
    for (const [x, y] of overDisc([100, 100], 50))
      expect(Math.hypot(x - 100, y - 100)).toBeLessThan(50);
  });
});
