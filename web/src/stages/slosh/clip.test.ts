import { unzipSync } from "fflate";
import { describe, expect, it, vi } from "vitest";
import { clipFault, clipTimes, makeClip, pngFrames, type ClipWish } from "./clip";

const wish = (change: Partial<ClipWish> = {}): ClipWish => ({
  fromS: 2,
  toS: 2.4,
  speed: 1,
  kind: "png",
  ...change,
});

/** A canvas that gives the same few bytes as its picture each time. */
const canvas = {
  toBlob: (give: (blob: Blob | null) => void) =>
    give({
      arrayBuffer: () => Promise.resolve(new Uint8Array([1, 2, 3]).buffer),
    } as unknown as Blob),
} as unknown as HTMLCanvasElement;

describe("a wish for a clip", () => {
  it("is held to the lap", () => {
    expect(clipFault(wish(), 80)).toBeNull();
    expect(clipFault(wish({ fromS: NaN }), 80)).toContain("in seconds");
    expect(clipFault(wish({ toS: 90 }), 80)).toContain("0 to 80.0 s");
    expect(clipFault(wish({ fromS: -1 }), 80)).toContain("0 to 80.0 s");
    expect(clipFault(wish({ toS: 2.1 }), 80)).toContain("after the start");
    expect(clipFault(wish({ fromS: 1, toS: 1.2 }), 80)).toBeNull();
    expect(clipFault(wish({ fromS: 0, toS: 70 }), 80)).toContain("at most 60 s");
  });
  it("is so many pictures, both ends among them", () => {
    const times = clipTimes(wish());
    expect(times.length).toBe(11);
    expect(times[0]).toBe(2);
    expect(times.at(-1)).toBeCloseTo(2.4);
  });
});

describe("making a clip", () => {
  it("shows each moment, then paints it, and tells how far it is", async () => {
    const done: string[] = [];
    const blob = await makeClip(
      wish(),
      (time) => {
        done.push(`show ${time.toFixed(2)}`);
        return Promise.resolve();
      },
      () => {
        done.push("paint");
        return Promise.resolve(canvas);
      },
      (count) => done.push(`${count}`),
      new AbortController().signal,
    );
    expect(done.slice(0, 6)).toEqual(["show 2.00", "paint", "1", "show 2.04", "paint", "2"]);
    expect(blob.type).toBe("application/zip");
  });
  it("stops between two pictures when told to", async () => {
    const control = new AbortController();
    const paint = vi.fn(() => Promise.resolve(canvas));
    const made = makeClip(
      wish(),
      () => Promise.resolve(),
      paint,
      (count) => {
        if (count === 3) control.abort();
      },
      control.signal,
    );
    await expect(made).rejects.toThrow();
    expect(paint).toHaveBeenCalledTimes(3);
  });
  it("puts numbered pictures and their times into an archive", async () => {
    const file = pngFrames();
    await file.add(canvas, 2);
    await file.add(canvas, 2.04);
    const blob = await file.finish();
    const bytes = new Uint8Array(await new Response(blob).arrayBuffer());
    const entries = unzipSync(bytes);
    expect(Object.keys(entries).sort()).toEqual(["0001.png", "0002.png", "times.csv"]);
    expect([...(entries["0002.png"] ?? [])]).toEqual([1, 2, 3]);
    expect(new TextDecoder().decode(entries["times.csv"])).toBe(
      "picture,time_s\r\n0001.png,2.000\r\n0002.png,2.040\r\n",
    );
  });
});
