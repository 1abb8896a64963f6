import { useState } from "react";
import { wordsOf } from "../api/client";
import {
  useRecords,
  useTakeRecord,
  type RecordKind,
  type RecordOf,
  type RowOf,
  type Take,
} from "../api/records";
import { useSettings } from "../parts/settings";
import { useBuildView } from "./BuildContext";

export interface Keeping<K extends RecordKind> {
  /** Those that count, in the order taken; undefined until they are there. */
  rows: readonly RowOf<K>[] | undefined;
  /** Why there are none, or why the last was not kept. */
  fault: string | null;
  /** Keeps a record, or writes one anew; figures may be as typed. Its fault is the caller's. */
  keep: (record: RecordOf<K>, replaces?: number) => Promise<unknown>;
  /** The same where nobody waits for it: its fault is kept here. */
  put: (record: RecordOf<K>, replaces?: number) => void;
  strike: (replaces: number) => void;
}

/** Records of one kind of the build on the screen, taken on the state shown. */
export function useKept<K extends RecordKind>(kind: K): Keeping<K> {
  const { build } = useBuildView();
  const { system } = useSettings();
  const { data, error } = useRecords(build);
  const take = useTakeRecord(build);
  const [fault, setFault] = useState<string | null>(null);
  const send = (record: Take["record"], replaces?: number): Promise<unknown> => {
    setFault(null);
    return take.mutateAsync({ state: build.state, system, record, replaces: replaces ?? null });
  };
  const quietly = (sent: Promise<unknown>): void => {
    sent.catch((refused: unknown) => setFault(wordsOf(refused)));
  };
  return {
    rows: data?.filter((row): row is RowOf<K> => row.kind === kind),
    fault: fault ?? (error && !data ? wordsOf(error) : null),
    keep: send,
    put: (record, replaces) => quietly(send(record, replaces)),
    strike: (replaces) => quietly(send(null, replaces)),
  };
}
