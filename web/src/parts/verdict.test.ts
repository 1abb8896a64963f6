import { describe, expect, it } from "vitest";
import { yours } from "./verdict";

const VERDICT = {
  state: "not_safe" as const,
  headline: "Not safe",
  sentence: "The pickup runs dry twice a lap.",
  dry_s: 1.2,
  dip_count: 2,
};

describe("yours", () => {
  it("is the verdict as it is once car and pan are the builder's own", () => {
    expect(yours(VERDICT, [])).toBe(VERDICT);
    expect(yours(VERDICT, ["oil", "pump", "pickup"])).toBe(VERDICT);
  });

  it("does not shout a template's numbers", () => {
    const shown = yours(VERDICT, ["car", "pan"]);
    expect([shown.state, shown.headline]).toEqual(["not_yours", "Not yours yet"]);
    expect(shown.sentence).toBe(
      "Car and pan are a template's, and as they are the pickup runs dry twice a lap.",
    );
    expect(yours(VERDICT, ["pan"]).sentence).toMatch(/^The pan is a template's, and as it is/);
  });

  it("says that a lap is missing too, and lets a fault through", () => {
    const none = {
      ...VERDICT,
      state: "no_lap" as const,
      headline: "No lap yet",
      sentence: "Import a lap.",
      dry_s: null,
    };
    expect(yours(none, ["car"]).sentence).toBe(
      "The car is a template's, put in your own. No lap yet: import a lap.",
    );
    expect(yours({ ...VERDICT, state: "faulty" }, ["car"]).state).toBe("faulty");
  });
});
