import { describe, expect, it } from "vitest";
import { cornerFields, edgeFields, newSideBox, newZone, rectangleOf, type Zone } from "./edges";

const zone = (name: string, x0: number, x1: number, y0: number, y1: number): Zone => ({
  id: name,
  name,
  outline_mm: [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ],
  floor: { kind: "flat", depth_mm: 100 },
  ceiling_depth_mm: null,
  draft_deg: 0,
});

const sump = zone("sump", 200, 450, -100, 100);
const shelf = zone("shelf", 0, 200, -100, 100);
const kickOut = { ...zone("kick-out", 230, 390, -150, -100), ceiling_depth_mm: 70 };
const zones = [sump, shelf, kickOut];

describe("rectangleOf", () => {
  it("knows rectangles from other shapes", () => {
    expect(rectangleOf(sump)).toEqual({ rear: 200, front: 450, right: -100, left: 100 });
    expect(rectangleOf({ ...sump, outline_mm: sump.outline_mm.slice(1) })).toBeNull();
    const skewed = { ...sump, outline_mm: sump.outline_mm.with(0, [210, -100]) };
    expect(rectangleOf(skewed)).toBeNull();
  });
});

describe("edgeFields", () => {
  it("moves the neighbour's edge along", () => {
    expect(edgeFields(zones, 0, "rear")).toEqual([
      "pan.zones.sump.outline_mm.0.0",
      "pan.zones.sump.outline_mm.3.0",
      "pan.zones.shelf.outline_mm.1.0",
      "pan.zones.shelf.outline_mm.2.0",
    ]);
  });
  it("takes a side box along, but not a zone that only touches at a corner", () => {
    expect(edgeFields(zones, 0, "right")).toEqual([
      "pan.zones.sump.outline_mm.0.1",
      "pan.zones.sump.outline_mm.1.1",
      "pan.zones.kick-out.outline_mm.2.1",
      "pan.zones.kick-out.outline_mm.3.1",
    ]);
  });
  it("moves a free edge alone", () => {
    expect(edgeFields(zones, 0, "front")).toHaveLength(2);
  });
});

describe("cornerFields", () => {
  it("moves corners that lie in one place together", () => {
    expect(cornerFields(zones, 0, 0, 1)).toEqual([
      "pan.zones.sump.outline_mm.0.1",
      "pan.zones.shelf.outline_mm.1.1",
    ]);
  });
});

describe("newZone", () => {
  it("stands against the foremost zone under a free name", () => {
    const made = newZone(zones);
    expect(made.name).toBe("zone 4");
    expect(rectangleOf(made)).toEqual({ rear: 450, front: 510, right: -100, left: 100 });
  });
});

describe("a side box", () => {
  it("sits on the right of the deepest zone, closed above", () => {
    const box = newSideBox([sump, shelf]);
    expect(box?.outline_mm).toEqual([
      [220, -150],
      [430, -150],
      [430, -100],
      [220, -100],
    ]);
    expect(box?.ceiling_depth_mm).toBe(50);
  });
  it("needs a zone to sit on", () => {
    expect(newSideBox([])).toBeNull();
  });
});
