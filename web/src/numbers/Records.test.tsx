import { describe, expect, it } from "vitest";
import { freeName, partAt } from "./Records";

describe("a part of a record", () => {
  it("is found by its path", () => {
    expect(partAt({ from_mm: [1, 2, 3], name: "rack" }, "from_mm.2")).toBe(3);
    expect(partAt({ name: "rack" }, "name")).toBe("rack");
    expect(partAt({ name: "rack" }, "from_mm.2")).toBeUndefined();
  });
});

describe("a free name", () => {
  it("counts on", () => {
    expect(freeName([], "boss")).toBe("boss");
    expect(freeName([{ name: "boss" }, { name: "boss 2" }], "boss")).toBe("boss 3");
  });
});
