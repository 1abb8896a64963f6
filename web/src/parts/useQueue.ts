import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { bodyOf, client, fileForm, Refusal, wordsOf } from "../api/client";
import {
  afterAnswer,
  entered,
  keeperOf,
  toSend,
  type Keeper,
  type Waiting,
} from "../offline/queue";

/** How often what waits is tried again [ms]. */
const AGAIN = 15_000;

export interface Queue<Entry> {
  /** Entered and not with the server, refused ones among them. */
  rows: readonly Waiting<Entry>[];
  /** Whether they outlive the page. */
  lasts: boolean;
  /** Why the last try did not go through; null where it did. */
  fault: string | null;
  /** Nothing answers: they wait. */
  isAway: boolean;
  add: (entry: Entry, photos?: Blob[]) => void;
  /** Takes a refused one off the list: it was read. */
  drop: (client_id: string) => void;
  retry: () => void;
}

type Refused = readonly { client_id: string; why: string }[];

async function withPhotos<Entry>(
  keeper: Keeper<Entry>,
  row: Waiting<Entry>,
  buildId: number,
): Promise<Waiting<Entry>> {
  let sent = row;
  for (const photo of row.photos) {
    const file = new File([photo], "photo.jpg", { type: photo.type });
    const { token } = bodyOf(
      "PhotoOut",
      await client.POST("/api/builds/{build_id}/photos", {
        params: { path: { build_id: buildId } },
        body: { file: "" },
        bodySerializer: () => fileForm(file),
      }),
    );
    const before = (sent.entry as { photos?: string[] }).photos ?? [];
    sent = {
      ...sent,
      entry: { ...sent.entry, photos: [...before, token] },
      photos: sent.photos.slice(1),
    };
    const kept = sent;
    await keeper.change((rows) =>
      rows.map((each) => (each.client_id === kept.client_id ? kept : each)),
    );
  }
  return sent;
}

/** One after the other, over all of the browser's pages where it can hold a lock. */
const alone = (key: string, work: () => Promise<void>): Promise<void> =>
  "locks" in navigator
    ? navigator.locks.request(`bilge ${key}`, () => work()).then(() => undefined)
    : work();

/** Sends what this hand entered, until nothing of it waits. */
async function sendAll<Entry>(
  keeper: Keeper<Entry>,
  buildId: number,
  me: string,
  send: (rows: Waiting<Entry>[]) => Promise<Refused>,
  onRows: (rows: Waiting<Entry>[]) => void,
): Promise<void> {
  for (;;) {
    const waiting = toSend(await keeper.read(), me);
    if (waiting.length === 0) break;
    const ready: Waiting<Entry>[] = [];
    for (const row of waiting) ready.push(await withPhotos(keeper, row, buildId));
    const refused = await send(ready);
    const ids = ready.map(({ client_id: id }) => id);
    onRows(await keeper.change((now) => afterAnswer(now, ids, refused)));
  }
}

/** Entries of one hand on one thing: kept on the device, sent when something answers. */
export function useQueue<Entry>(
  key: string,
  buildId: number,
  me: string,
  send: (rows: Waiting<Entry>[]) => Promise<Refused>,
): Queue<Entry> {
  const keeper = useMemo(() => keeperOf<Entry>(key), [key]);
  const [rows, setRows] = useState<readonly Waiting<Entry>[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [isAway, setAway] = useState(false);
  const latest = useRef(send);
  useEffect(() => {
    latest.current = send;
  }, [send]);

  const flush = useCallback(
    () =>
      alone(key, async () => {
        try {
          await sendAll(keeper, buildId, me, latest.current, setRows);
          setFault(null);
          setAway(false);
        } catch (thrown) {
          const isTold = thrown instanceof Refusal && thrown.status < 500;
          setAway(!isTold);
          setFault(
            thrown instanceof Refusal && thrown.status === 401
              ? "Sign in again to send what was entered."
              : wordsOf(thrown),
          );
        }
      }),
    [key, keeper, me, buildId],
  );

  useEffect(() => {
    void keeper.read().then(setRows);
    void flush();
    const again = (): void => void flush();
    const timer = window.setInterval(again, AGAIN);
    window.addEventListener("online", again);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [keeper, flush]);

  const add = (entry: Entry, photos: Blob[] = []): void => {
    const row = entered(entry, me, photos);
    setRows((before) => [...before, row]);
    void keeper.change((before) => [...before, row]).then(flush);
  };
  const drop = (id: string): void => {
    const without: (before: readonly Waiting<Entry>[]) => Waiting<Entry>[] = (before) =>
      before.filter(({ client_id: each }) => each !== id);
    setRows(without);
    void keeper.change(without);
  };
  return { rows, lasts: keeper.lasts, fault, isAway, add, drop, retry: () => void flush() };
}
