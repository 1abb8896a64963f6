import { vi } from "vitest";
import type { RecordKind, RecordOf } from "../api/records";
import type { Keeping } from "../document/useRecords";

/** Records of a kind as a stage is handed them; what is done with them is listened to. */
export function keptOf<K extends RecordKind>(kind: K, records: readonly RecordOf<K>[]) {
  const rows = records.map((record, at) => ({
    id: at + 1,
    kind,
    record,
    state: 3,
    taken_by: "ada",
    taken_at: "2026-11-25T09:00:00Z",
    written_anew: false,
  }));
  const keep = vi.fn<Keeping<K>["keep"]>(() => Promise.resolve());
  const put = vi.fn<Keeping<K>["put"]>();
  const strike = vi.fn<Keeping<K>["strike"]>();
  return { rows, fault: null as string | null, keep, put, strike };
}
