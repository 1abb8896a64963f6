import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { entriesOf, arrayOf } from "./npz";

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

const SHARED = { doubles: Float64Array, whole: Int32Array };

/** Rows after a part's first are differences to the row before, modulo 256. */
export function undone(part: Uint8Array, width: number): Uint8Array {
  const rows = part.slice();
  for (let at = width; at < rows.length; at += 1)
    rows[at] = ((rows[at] ?? 0) + (rows[at - width] ?? 0)) & 255;
  return rows;
}

/** Read a record as the core writes it (docs/formats.md). */
export async function framesFrom(record: ArrayBuffer): Promise<OilFrames> {
  const entries = entriesOf(record);
  const bytes = async (name: string): Promise<Uint8Array> => arrayOf(entries, name);
  const doubles = async (name: string): Promise<Float64Array> => {
    const raw = await bytes(name);
    return new SHARED.doubles(raw.slice().buffer).map((metres) => 1000 * metres);
  };
  const about = JSON.parse(new TextDecoder().decode(await bytes("about.json"))) as {
    rate_hz: number;
    frames: number;
  };
  const cells = new SHARED.whole((await bytes("cells")).slice().buffer);
  const faces = [
    await doubles("faces_x"),
    await doubles("faces_y"),
    await doubles("faces_z"),
  ] as const;
  const filling = new Uint8Array(about.frames * cells.length);
  const parts = [...entries.keys()].filter((name) => name.startsWith("part_")).sort();
  let at = 0;
  for (const name of parts) {
    const part = undone(await bytes(name.replace(/\.npy$/, "")), cells.length);
    filling.set(part, at);
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
