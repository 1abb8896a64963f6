import { describe, expect, it } from "vitest";
import { bestView } from "./Fitted";

describe("the view for a gap", () => {
  it("is the one in which it is longest", () => {
    expect(bestView([0, 0, 0], [0, 0, -20])).toBe("front");
    expect(bestView([0, 0, 0], [40, 0, -20])).toBe("side");
    expect(bestView([0, 0, 0], [40, 30, 0])).toBe("plan");
  });
});
