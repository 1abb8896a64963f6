import { describe, expect, it } from "vitest";
import { clearWords, overlap, type Box, type Words } from "./clearWords";

const SHEET: Box = { left: 0, top: 0, right: 400, bottom: 300 };
const box = (left: number, top: number, width = 60, height = 16): Box => ({
  left,
  top,
  right: left + width,
  bottom: top + height,
});
const words = (at: Box, rank = 3, mayGo = false): Words => ({ box: at, rank, mayGo });

function placed(all: readonly Words[], lines: readonly Box[] = []): (Box | null)[] {
  return clearWords(all, SHEET, lines).map((shift, index) => {
    const at = all[index]?.box;
    return shift && at
      ? box(at.left + shift[0], at.top + shift[1], at.right - at.left, at.bottom - at.top)
      : null;
  });
}

describe("clearWords", () => {
  it("leaves alone what is in nobody's way", () => {
    expect(clearWords([words(box(10, 10)), words(box(10, 40))], SHEET, [])).toEqual([
      [0, 0],
      [0, 0],
    ]);
  });

  it("moves the less important of two, and as little as it takes", () => {
    const [first, second] = clearWords([words(box(50, 50), 4), words(box(55, 52), 1)], SHEET, []);
    expect(second).toEqual([0, 0]);
    expect(first).not.toEqual([0, 0]);
    expect(Math.hypot(...(first ?? [0, 0]))).toBeLessThan(25);
  });

  it("brings everything onto the sheet, what stays where it is too", () => {
    for (const rank of [0, 3])
      for (const at of [box(-30, 5), box(390, 5), box(5, -9), box(5, 296)]) {
        const [only] = placed([words(at, rank)]);
        expect(only && only.left >= 0 && only.top >= 0).toBe(true);
        expect(only && only.right <= 400 && only.bottom <= 300).toBe(true);
      }
  });

  it("lays nothing over anything in a crowd", () => {
    const crowd = Array.from({ length: 14 }, (_, k) => words(box(180 + 3 * k, 150 + 2 * k)));
    const where = placed(crowd);
    for (const [i, a] of where.entries())
      for (const b of where.slice(i + 1)) expect(a && b && overlap(a, b)).toBe(0);
  });

  it("steps off a heavy line, but not far", () => {
    const line = box(0, 55, 400, 3);
    const [off] = placed([words(box(50, 48))], [line]);
    expect(off && overlap(off, line)).toBe(0);
    const wall = box(0, 0, 400, 300);
    expect(clearWords([words(box(50, 48))], SHEET, [wall])[0]).toEqual([0, 0]);
  });

  it("leaves out what may go rather than strike it through", () => {
    const wall = box(0, 0, 400, 300);
    expect(clearWords([words(box(50, 48), 4, true)], SHEET, [wall])[0]).toBeNull();
  });

  it("leaves out what may go when there is no room at all", () => {
    const full = words({ ...SHEET }, 0);
    expect(clearWords([full, words(box(50, 50), 4, true)], SHEET, [])[1]).toBeNull();
    expect(clearWords([full, words(box(50, 50), 4)], SHEET, [])[1]).not.toBeNull();
  });
});
