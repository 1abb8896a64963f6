import { describe, expect, it } from "vitest";
import { undone } from "./frames";
import { arrayOf, entriesOf } from "./npz";

/** A ZIP archive with one stored entry, byte by byte. */
function archive(name: string, body: Uint8Array): ArrayBuffer {
  const label = new TextEncoder().encode(name);
  const bytes = new Uint8Array(30 + label.length + body.length + 46 + label.length + 22);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, 0x04034b50, true);
  view.setUint16(26, label.length, true);
  bytes.set(label, 30);
  bytes.set(body, 30 + label.length);
  const central = 30 + label.length + body.length;
  view.setUint32(central, 0x02014b50, true);
  view.setUint32(central + 20, body.length, true);
  view.setUint16(central + 28, label.length, true);
  bytes.set(label, central + 46);
  const end = central + 46 + label.length;
  view.setUint32(end, 0x06054b50, true);
  view.setUint16(end + 10, 1, true);
  view.setUint32(end + 16, central, true);
  return bytes.buffer;
}

describe("a record", () => {
  it("gives an array's bytes without its header", async () => {
    const body = new Uint8Array([0x93, 78, 85, 77, 80, 89, 1, 0, 2, 0, 32, 10, 7, 8, 9]);
    const entries = entriesOf(archive("room.npy", body));
    expect([...(await arrayOf(entries, "room"))]).toEqual([7, 8, 9]);
    await expect(arrayOf(entries, "other")).rejects.toThrow("has no other");
  });
  it("that is none is refused", () => {
    expect(() => entriesOf(new ArrayBuffer(40))).toThrow("not a ZIP");
  });
  it("adds up its differences row by row, modulo 256", () => {
    expect([...undone(new Uint8Array([250, 1, 10, 2]), 2)]).toEqual([250, 1, 4, 3]);
  });
});
