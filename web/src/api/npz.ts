/** An entry of a ZIP archive: its bytes as stored, and whether they are deflated. */
interface Entry {
  bytes: Uint8Array;
  deflated: boolean;
}

const END = 0x06054b50;
const CENTRAL = 0x02014b50;

/** The entries of a ZIP archive by name, from its directory at the end. */
export function entriesOf(archive: ArrayBuffer): Map<string, Entry> {
  const view = new DataView(archive);
  let end = archive.byteLength - 22;
  while (end >= 0 && view.getUint32(end, true) !== END) end -= 1;
  if (end < 0) throw new Error("The record is not a ZIP archive.");
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  const entries = new Map<string, Entry>();
  for (let n = 0; n < count; n += 1) {
    if (view.getUint32(at, true) !== CENTRAL) throw new Error("The record's directory is broken.");
    const method = view.getUint16(at + 10, true);
    const size = view.getUint32(at + 20, true);
    const nameLength = view.getUint16(at + 28, true);
    const rest = view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    const local = view.getUint32(at + 42, true);
    const name = new TextDecoder().decode(new Uint8Array(archive, at + 46, nameLength));
    const start = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
    entries.set(name, { bytes: new Uint8Array(archive, start, size), deflated: method === 8 });
    at += 46 + nameLength + rest;
  }
  return entries;
}

async function inflated(bytes: Uint8Array): Promise<Uint8Array> {
  const stream = new Blob([bytes.slice()])
    .stream()
    .pipeThrough(new DecompressionStream("deflate-raw"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** The plain bytes of an array in an archive, without the header that says what they are. */
export async function arrayOf(entries: Map<string, Entry>, name: string): Promise<Uint8Array> {
  const entry = entries.get(`${name}.npy`);
  if (!entry) throw new Error(`The record has no ${name}.`);
  const bytes = entry.deflated ? await inflated(entry.bytes) : entry.bytes;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isLong = view.getUint8(6) > 1;
  const header = isLong ? view.getUint32(8, true) + 12 : view.getUint16(8, true) + 10;
  return bytes.subarray(header);
}
