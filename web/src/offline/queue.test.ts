import { describe, expect, it } from "vitest";
import { afterAnswer, entered, keeperOf, newId, toSend, whileOpen } from "./queue";

const row = (by: string, refused: string | null = null): ReturnType<typeof entered<string>> => ({
  ...entered("x", by),
  refused,
});

describe("what waits to be sent", () => {
  it("has an id of its own that the server takes", () => {
    const ids = new Set(Array.from({ length: 50 }, newId));
    expect(ids.size).toBe(50);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f-]{27}$/);
  });

  it("makes an id where the browser has no maker of them", () => {
    const own = Object.getOwnPropertyDescriptor(crypto, "randomUUID");
    Object.defineProperty(crypto, "randomUUID", { value: undefined, configurable: true });
    expect(newId()).toMatch(/^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/);
    if (own) Object.defineProperty(crypto, "randomUUID", own);
    else Reflect.deleteProperty(crypto, "randomUUID");
  });

  it("is sent in no other name, refused ones not again, in their order", () => {
    const rows = [row("MK"), row("other"), row("MK", "is not on this card"), row("MK")];
    expect(toSend(rows, "MK")).toEqual([rows[0], rows[3]]);
    expect(toSend(rows, "MK", 1)).toEqual([rows[0]]);
  });

  it("goes when the server has it, stays with its reason where it is refused, and else stays", () => {
    const [kept, refused, unsent] = [row("MK"), row("MK"), row("MK")];
    const ids = [kept.client_id, refused.client_id];
    const left = afterAnswer([kept, refused, unsent], ids, [
      { client_id: refused.client_id, why: "waits for a gate" },
    ]);
    expect(left).toEqual([{ ...refused, refused: "waits for a gate" }, unsent]);
  });

  it("is kept while the page is open where the browser keeps nothing", async () => {
    const one = row("MK");
    expect(keeperOf("a").lasts).toBe(typeof indexedDB !== "undefined");
    await whileOpen<string>("k").change((rows) => [...rows, one]);
    expect(await whileOpen<string>("k").read()).toEqual([one]);
  });
});
