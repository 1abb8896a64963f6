import { zip, type Zippable } from "fflate";
import type { Speed } from "../../parts/usePlay";

/** Pictures a second of the lap. */
export const CLIP_RATE = 25;
export const LONGEST_S = 60;

export type ClipKind = "webm" | "png";

export interface ClipWish {
  fromS: number;
  toS: number;
  speed: Speed;
  kind: ClipKind;
}

/** What is wrong with a wish for a clip, or null. */
export function clipFault(wish: ClipWish, durationS: number): string | null {
  const { fromS, toS } = wish;
  if (!Number.isFinite(fromS) || !Number.isFinite(toS)) return "Give both ends in seconds.";
  if (fromS < 0 || toS > durationS + 0.05)
    return `The lap goes from 0 to ${durationS.toFixed(1)} s.`;
  if (toS - fromS < 0.2 - 1e-6) return "The end must be at least 0.2 s after the start.";
  if (toS - fromS > LONGEST_S) return `A clip holds at most ${LONGEST_S} s of the lap.`;
  return null;
}

/** The moments of the lap that a clip shows [s]. */
export function clipTimes({ fromS, toS }: ClipWish): number[] {
  const count = Math.floor((toS - fromS) * CLIP_RATE + 1e-6) + 1;
  return Array.from({ length: count }, (_, n) => fromS + n / CLIP_RATE);
}

/** Takes pictures one after another and gives the file they make. */
interface ClipFile {
  add: (canvas: HTMLCanvasElement, timeS: number) => Promise<void>;
  finish: () => Promise<Blob>;
  /** Lets go of a file that will not be finished. */
  drop: () => Promise<void>;
}

const pngBytes = (canvas: HTMLCanvasElement): Promise<Uint8Array> =>
  new Promise((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) void blob.arrayBuffer().then((bytes) => resolve(new Uint8Array(bytes)));
      else reject(new Error("A picture of the clip could not be made."));
    });
  });

/** Numbered pictures and a table of their times, in a ZIP archive. */
export function pngFrames(): ClipFile {
  const files: Zippable = {};
  const rows = ["picture,time_s"];
  return {
    add: async (canvas, timeS) => {
      const name = `${String(rows.length).padStart(4, "0")}.png`;
      rows.push(`${name},${timeS.toFixed(3)}`);
      files[name] = [await pngBytes(canvas), { level: 0 }];
    },
    finish: () =>
      new Promise((resolve, reject) => {
        files["times.csv"] = new TextEncoder().encode(`${rows.join("\r\n")}\r\n`);
        zip(files, { level: 0 }, (error, bytes) => {
          if (error) reject(error);
          else resolve(new Blob([bytes], { type: "application/zip" }));
        });
      }),
    drop: () => Promise.resolve(),
  };
}

/** A WebM film, each picture shown as long as the playing speed says. */
async function webmFilm(canvas: HTMLCanvasElement, speed: Speed): Promise<ClipFile> {
  const media = await import("mediabunny");
  const codec = await media.getFirstEncodableVideoCodec(["vp9", "vp8", "av1"], {
    width: canvas.width,
    height: canvas.height,
  });
  if (codec === null)
    throw new Error("This browser writes no WebM film; save PNG pictures instead.");
  const output = new media.Output({
    format: new media.WebMOutputFormat(),
    target: new media.BufferTarget(),
  });
  const source = new media.CanvasSource(canvas, { codec, quality: new media.Quality("high") });
  output.addVideoTrack(source, { frameRate: CLIP_RATE * speed });
  await output.start();
  const each = 1 / (CLIP_RATE * speed);
  let count = 0;
  return {
    add: async () => {
      await source.add(count * each, each);
      count += 1;
    },
    finish: async () => {
      await output.finalize();
      const { buffer } = output.target;
      if (!buffer) throw new Error("The film came out empty.");
      return new Blob([buffer], { type: "video/webm" });
    },
    drop: () => output.cancel(),
  };
}

/**
 * Makes a clip: shows moment after moment, paints each on one canvas, and puts them into a file.
 * Stops between two pictures when it is told to.
 */
export async function makeClip(
  wish: ClipWish,
  show: (timeS: number) => Promise<void>,
  paint: () => Promise<HTMLCanvasElement>,
  onDone: (count: number) => void,
  signal: AbortSignal,
): Promise<Blob> {
  let file: ClipFile | null = null;
  let count = 0;
  try {
    for (const time of clipTimes(wish)) {
      signal.throwIfAborted();
      await show(time);
      const canvas = await paint();
      file ??= wish.kind === "webm" ? await webmFilm(canvas, wish.speed) : pngFrames();
      await file.add(canvas, time);
      count += 1;
      onDone(count);
    }
    signal.throwIfAborted();
    if (!file) throw new Error("There is nothing to save.");
    return await file.finish();
  } catch (error) {
    await file?.drop();
    throw error;
  }
}
