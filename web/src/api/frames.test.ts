import { zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { arrayOf, framesFrom, undone } from "./frames";

/** An array as NumPy writes it: magic, version, length of the header, header, bytes. */
function npy(body: Uint8Array): Uint8Array {
  const header = new TextEncoder().encode("{...}".padEnd(53) + "\n");
  const whole = new Uint8Array(10 + header.length + body.length);
  whole.set([0x93, 78, 85, 77, 80, 89, 1, 0, header.length, 0]);
  whole.set(header, 10);
  whole.set(body, 10 + header.length);
  return whole;
}

const bytesOf = (array: Float64Array | Int32Array): Uint8Array => new Uint8Array(array.buffer);

describe("a record of moving oil", () => {
  it("is read as it was written, part by part", () => {
    const line = npy(bytesOf(new Float64Array([0, 0.01, 0.02])));
    const about = { rate_hz: 2, frames: 3 };
    const record = zipSync({
      "about.json.npy": npy(new TextEncoder().encode(JSON.stringify(about))),
      "cells.npy": npy(bytesOf(new Int32Array([0, 3]))),
      "faces_x.npy": line,
      "faces_y.npy": line,
      "faces_z.npy": line,
      "part_00000.npy": npy(new Uint8Array([200, 0, 56, 10])),
      "part_00001.npy": npy(new Uint8Array([7, 9])),
    });
    const frames = framesFrom(record.buffer);
    const read = [1, 0, 2, 1].map((index) => [...frames.filling(index)]);
    expect(read).toEqual([
      [0, 10],
      [200, 0],
      [7, 9],
      [0, 10],
    ]);
    expect([...frames.faces[1]]).toEqual([0, 10, 20]);
    expect([...frames.cells]).toEqual([0, 3]);
    expect([frames.rate, frames.count]).toEqual([2, 3]);
  });
  it("says what is missing of it", () => {
    expect(() => arrayOf({}, "room")).toThrow("has no room");
  });
  it("that is none is refused", () => {
    expect(() => framesFrom(new ArrayBuffer(40))).toThrow("cannot be read");
  });
  it("adds up its differences row by row, modulo 256", () => {
    expect([...undone(new Uint8Array([250, 1, 10, 2]), 2)]).toEqual([250, 1, 4, 3]);
  });
});
