import { describe, expect, it } from "vitest";
import type { Slosh } from "../../api/queries";
import { oilSentence } from "./sentence";

const slosh = {
  drawing: {
    zones: [{ name: "deep sump" }, { name: "shelf" }, { name: "kick-out" }],
    plates: [],
    oil_in_pan_l: 4.6,
    capacity_to_rail_l: 10.5,
  },
  held: { zone: 0 },
} as unknown as Slosh;
const load = { sideG: 1.2, foreG: 0.1 };

describe("oilSentence", () => {
  it("says where the oil is, what holds it there and how much is short", () => {
    const where = { zonesL: [0.6, 2.9, 1.1], toCoverL: 6.3, airy: true, load };
    expect(oilSentence(slosh, where, "metric", [])).toBe(
      "The oil is there, 4.6 L of it: shelf 2.9 L, kick-out 1.1 L, deep sump 0.6 L. " +
        "The load holds it on the right; nothing in the pan holds it back. " +
        "6.3 L would have to be in the pan to cover the mouth: 1.7 L short.",
    );
  });
  it("does not say that nothing holds it where there are plates", () => {
    const plated = { ...slosh, drawing: { ...slosh.drawing, plates: [{}] } } as unknown as Slosh;
    const where = { zonesL: [0.6, 2.9, 1.1], toCoverL: 6.3, airy: true, load };
    const said = oilSentence(plated, where, "metric", []);
    expect(said).toContain("The load holds it on the right. 6.3 L");
    expect(said).not.toContain("nothing in the pan");
  });
  it("says when oil alone is no remedy", () => {
    const where = { zonesL: [0.6, 4, 0], toCoverL: 12, airy: true, load };
    expect(oilSentence(slosh, where, "metric", [])).toContain("more than it holds to the rail");
  });
  it("says what there is to spare", () => {
    const where = { zonesL: [4.6, 0, 0], toCoverL: 1.6, airy: false, load: { sideG: 0, foreG: 0 } };
    expect(oilSentence(slosh, where, "metric", [])).toBe(
      "Of 4.6 L in the pan: deep sump 4.6 L. 1.6 L would cover the mouth here: 3.0 L to spare.",
    );
  });
});
