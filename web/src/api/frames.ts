import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { unzipSync, type Unzipped } from "fflate";

/** The moving oil of a run on record: how full each cell is, frame by frame. */
export interface OilFrames {
  /** Faces of the cells along each axis [mm]. */
  faces: readonly [Float64Array, Float64Array, Float64Array];
  /** Which cells of the grid can hold oil, x slowest. */
  cells: Int32Array;
  rate: number;
  count: number;
  /** One frame, 0 to 200 for empty to full; unpacked a second at a time, when it is asked for. */
  filling: (index: number) => Uint8Array;
}

/** What a full cell counts as. */
export const FULL = 200;

/** Rows after a part's first are differences to the row before, modulo 256. */
export function undone(part: Uint8Array, width: number): Uint8Array {
  for (let n = width; n < part.length; n += 1)
    part[n] = ((part[n] ?? 0) + (part[n - width] ?? 0)) & 255;
  return part;
}

/** The plain bytes of an array in an archive, without the header that says what they are. */
export function arrayOf(entries: Unzipped, name: string): Uint8Array<ArrayBuffer> {
  const bytes = entries[`${name}.npy`];
  if (!bytes) throw new Error(`The record has no ${name}.`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isLong = view.getUint8(6) > 1;
  const header = isLong ? view.getUint32(8, true) + 12 : view.getUint16(8, true) + 10;
  return bytes.slice(header);
}

/** The entries of a record whose names are wanted. */
function unzipped(record: Uint8Array, wanted: (name: string) => boolean): Unzipped {
  try {
    return unzipSync(record, { filter: ({ name }) => wanted(name) });
  } catch (error) {
    const why = error instanceof Error ? error.message : "it is broken";
    throw new Error(`The record cannot be read: ${why}.`, { cause: error });
  }
}

/** Unpacked parts that are kept: the one shown, and those beside it. */
const KEPT = 6;

/** Read a record as the core writes it (docs/formats.md). */
export function framesFrom(archive: ArrayBuffer): OilFrames {
  const record = new Uint8Array(archive);
  const entries = unzipped(record, (name) => !/^(part|gates)_/.test(name));
  const doubles = (name: string): Float64Array =>
    new Float64Array(arrayOf(entries, name).buffer).map((metres) => 1000 * metres);
  const about = JSON.parse(new TextDecoder().decode(arrayOf(entries, "about.json"))) as {
    rate_hz: number;
    frames: number;
  };
  const cells = new Int32Array(arrayOf(entries, "cells").buffer);
  const faces = [doubles("faces_x"), doubles("faces_y"), doubles("faces_z")] as const;
  const perPart = Math.round(about.rate_hz);
  const parts = new Map<number, Uint8Array>();
  const partAt = (number: number): Uint8Array => {
    const known = parts.get(number);
    if (known) return known;
    const name = `part_${String(number).padStart(5, "0")}`;
    const found = unzipped(record, (each) => each === `${name}.npy`);
    const part = undone(arrayOf(found, name), cells.length);
    const oldest = parts.keys().next();
    if (parts.size >= KEPT && !oldest.done) parts.delete(oldest.value);
    parts.set(number, part);
    return part;
  };
  const filling = (index: number): Uint8Array => {
    const row = (index % perPart) * cells.length;
    return partAt(Math.floor(index / perPart)).subarray(row, row + cells.length);
  };
  return { faces, cells, rate: about.rate_hz, count: about.frames, filling };
}

/** The frames of a finished run, kept while the page stands. */
export const useFrames = (runId: number | null): UseQueryResult<OilFrames> =>
  useQuery({
    queryKey: ["frames", runId],
    enabled: runId !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    queryFn: async () => {
      const answer = await fetch(`/api/runs/${runId ?? 0}/frames`);
      if (!answer.ok) throw new Error("The record of the moving oil cannot be had.");
      return framesFrom(await answer.arrayBuffer());
    },
  });
