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
  /** Frame after frame, 0 to 200 for empty to full. */
  filling: Uint8Array;
}

/** What a full cell counts as. */
export const FULL = 200;

/** Rows after a part's first are differences to the row before, modulo 256; into a place of `rows`. */
export function undoneInto(rows: Uint8Array, at: number, part: Uint8Array, width: number): void {
  rows.set(part, at);
  for (let n = at + width; n < at + part.length; n += 1)
    rows[n] = ((rows[n] ?? 0) + (rows[n - width] ?? 0)) & 255;
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

function unzipped(record: ArrayBuffer): Unzipped {
  try {
    return unzipSync(new Uint8Array(record));
  } catch (error) {
    const why = error instanceof Error ? error.message : "it is broken";
    throw new Error(`The record cannot be read: ${why}.`, { cause: error });
  }
}

/** Read a record as the core writes it (docs/formats.md). */
export function framesFrom(record: ArrayBuffer): OilFrames {
  const entries = unzipped(record);
  const doubles = (name: string): Float64Array =>
    new Float64Array(arrayOf(entries, name).buffer).map((metres) => 1000 * metres);
  const about = JSON.parse(new TextDecoder().decode(arrayOf(entries, "about.json"))) as {
    rate_hz: number;
    frames: number;
  };
  const cells = new Int32Array(arrayOf(entries, "cells").buffer);
  const faces = [doubles("faces_x"), doubles("faces_y"), doubles("faces_z")] as const;
  const filling = new Uint8Array(about.frames * cells.length);
  const parts = Object.keys(entries).filter((name) => name.startsWith("part_"));
  let at = 0;
  for (const name of parts.sort()) {
    const part = arrayOf(entries, name.replace(/\.npy$/, ""));
    undoneInto(filling, at, part, cells.length);
    at += part.length;
  }
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
