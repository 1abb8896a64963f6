import { describe, expect, it } from "vitest";
import { keyName } from "./commands";

const press = (key: string, held: Partial<{ ctrlKey: boolean; shiftKey: boolean }> = {}): string =>
  keyName({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held });

describe("keyName", () => {
  it("names keys with what is held", () => {
    expect(press("z", { ctrlKey: true })).toBe("ctrl+z");
    expect(press("Z", { ctrlKey: true, shiftKey: true })).toBe("ctrl+shift+z");
    expect(press(" ")).toBe("space");
    expect(press("ArrowUp", { shiftKey: true })).toBe("shift+ArrowUp");
  });
  it("takes a shifted sign for itself", () => {
    expect(press("?", { shiftKey: true })).toBe("?");
    expect(press("/", { shiftKey: true })).toBe("/");
  });
});
