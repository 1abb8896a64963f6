import { describe, expect, it } from "vitest";
import type { BuildDocument } from "../api/queries";
import { newOpening, newPlate, roomAtMouth, type VerticalPlate } from "./plates";

const document = {
  pan: {
    zones: [
      {
        name: "shelf",
        outline_mm: [
          [0, -100],
          [200, -100],
          [200, 100],
          [0, 100],
        ],
        floor: { kind: "flat", depth_mm: 50 },
      },
      {
        name: "sump",
        outline_mm: [
          [200, -100],
          [450, -100],
          [450, 100],
          [200, 100],
        ],
        floor: { kind: "ramp", runs: "lengthways", from_depth_mm: 120, to_depth_mm: 140 },
      },
    ],
    plates: [{ kind: "vertical", name: "P1" }],
  },
  pickup: { x_mm: 320, y_mm: 10 },
} as unknown as BuildDocument;

describe("new plates", () => {
  it("stand in the zone that the mouth is in, under a name of their own", () => {
    expect(roomAtMouth(document)).toMatchObject({ rear: 200, front: 450, depth: 120 });
    const across = newPlate(document, "across") as VerticalPlate;
    expect(across).toMatchObject({ name: "P2", from_mm: [250, -100], to_mm: [250, 100] });
    expect(newPlate(document, "along")).toMatchObject({ from_mm: [200, -50], to_mm: [450, -50] });
    expect(newPlate(document, "level")).toMatchObject({ kind: "horizontal", depth_mm: 60 });
  });
  it("get gates that swing toward the mouth", () => {
    const across = newPlate(document, "across") as VerticalPlate;
    const opening = newOpening(across, document, [], "right");
    expect(opening.gate?.swings).toBe("right");
    expect(opening.lower_depth_mm - opening.height_mm).toBeGreaterThan(across.top_depth_mm);
  });
});
