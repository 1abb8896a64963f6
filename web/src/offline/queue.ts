import { createStore, get, update, type UseStore } from "idb-keyval";

/** Something that was entered and is not with the server yet. */
export interface Waiting<Entry> {
  client_id: string;
  /** When it was entered, by this device's clock. */
  at: string;
  /** Who was signed in: it is sent in no other name. */
  by: string;
  entry: Entry;
  /** Pictures that go first; each becomes a token of the entry. */
  photos: Blob[];
  /** Why the server did not keep it; null: it has not said. */
  refused: string | null;
}

type Change<Entry> = (rows: Waiting<Entry>[]) => Waiting<Entry>[];

/** Where entries are kept until they are sent: on the device, in the order entered. */
export interface Keeper<Entry> {
  /** Whether they outlive the page. */
  lasts: boolean;
  read: () => Promise<Waiting<Entry>[]>;
  change: (change: Change<Entry>) => Promise<Waiting<Entry>[]>;
}

let store: UseStore | null = null;

function onDevice<Entry>(key: string): Keeper<Entry> {
  store ??= createStore("bilge-entered", "waiting");
  const at = store;
  return {
    lasts: true,
    read: async () => (await get<Waiting<Entry>[]>(key, at)) ?? [],
    change: async (change) => {
      let after: Waiting<Entry>[] = [];
      await update<Waiting<Entry>[]>(
        key,
        (before) => {
          after = change(before ?? []);
          return after;
        },
        at,
      );
      return after;
    },
  };
}

const inPage = new Map<string, unknown[]>();

/** Where the browser keeps nothing: while the page stays open. */
export function whileOpen<Entry>(key: string): Keeper<Entry> {
  const read = (): Waiting<Entry>[] => (inPage.get(key) ?? []) as Waiting<Entry>[];
  return {
    lasts: false,
    read: () => Promise.resolve(read()),
    change: (change) => {
      const after = change(read());
      inPage.set(key, after);
      return Promise.resolve(after);
    },
  };
}

export const keeperOf = <Entry>(key: string): Keeper<Entry> =>
  typeof indexedDB === "undefined" ? whileOpen(key) : onDevice(key);

/** What goes to the server now: this hand's, not refused, in the order entered. */
export const toSend = <Entry>(
  rows: readonly Waiting<Entry>[],
  me: string,
  most = 100,
): Waiting<Entry>[] =>
  rows.filter(({ by, refused }) => by === me && refused === null).slice(0, most);

/** What is left after the server answered: refused ones stay with their reason. */
export function afterAnswer<Entry>(
  rows: readonly Waiting<Entry>[],
  sent: readonly string[],
  refused: readonly { client_id: string; why: string }[],
): Waiting<Entry>[] {
  const why = new Map(refused.map((row) => [row.client_id, row.why]));
  return rows.flatMap((row) => {
    if (!sent.includes(row.client_id)) return [row];
    const reason = why.get(row.client_id);
    return reason === undefined ? [] : [{ ...row, refused: reason }];
  });
}

/** A new entry, with an id that makes it one however often it is sent. */
export const entered = <Entry>(entry: Entry, by: string, photos: Blob[] = []): Waiting<Entry> => ({
  client_id: newId(),
  at: new Date().toISOString(),
  by,
  entry,
  photos,
  refused: null,
});

/** An id as unlikely twice as any; where the page is not trusted the browser has no maker of them. */
export function newId(): string {
  if (typeof crypto.randomUUID === "function") return crypto.randomUUID();
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  const parts = [0, 8, 12, 16, 20].map((at, n, all) => hex.slice(at, all[n + 1] ?? 32));
  return parts.join("-");
}
