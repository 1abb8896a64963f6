import { describe, expect, it } from "vitest";
import type { Entry } from "../../api/job";
import { entered, type Waiting } from "../../offline/queue";
import { cardOf, STEPS, stepOf } from "../../testing/job";
import { beforeIt, countDone, nextStep, stepsNow, waitsNow } from "./standing";

const NOON = Date.parse("2026-07-13T12:00:00Z");
const CARD = cardOf(STEPS);

const waits = (entry: Entry, minutes = 0, given: Partial<Waiting<Entry>> = {}): Waiting<Entry> => ({
  ...entered(entry, "MK"),
  at: new Date(NOON + minutes * 60_000).toISOString(),
  ...given,
});
const tick = (step: string, minutes = 0): Waiting<Entry> =>
  waits({ kind: "ticked", step, words: "" }, minutes);
const states = (rows: Waiting<Entry>[], now = NOON): string[] =>
  stepsNow(CARD, rows, now).map(({ state }) => state);

describe("a card with what waits on this device", () => {
  it("is what the server said where nothing waits", () => {
    expect(states([])).toEqual(["ready", "blocked", "blocked", "blocked"]);
  });

  it("goes on step by step without an answer, and shuts what waits for a time", () => {
    expect(states([tick("stands")])).toEqual(["done", "ready", "later", "later"]);
    const both = [tick("stands"), tick("drain")];
    expect(states(both)).toEqual(["done", "done", "shut", "later"]);
    const over = NOON + 0.65 * 3_600_000;
    expect(states(both, over - 1)[2]).toBe("shut");
    expect(states(both, over)[2]).toBe("ready");
  });

  it("takes back what was taken back, and passes a gate with a reason", () => {
    expect(states([tick("stands"), waits({ kind: "unticked", step: "stands" })])[0]).toBe("ready");
    const [stands] = stepsNow(
      CARD,
      [waits({ kind: "overridden", step: "stands", why: "on the rated lift" })],
      NOON,
    );
    expect(stands).toMatchObject({
      state: "overridden",
      reason: "on the rated lift",
      isWaiting: true,
    });
  });

  it("leaves out what the server refused", () => {
    expect(states([{ ...tick("stands"), refused: "is not on this card" }])[0]).toBe("ready");
  });

  it("ticks bolts and takes them back, each once", () => {
    const bolt = (kind: "bolt_tight" | "bolt_loose"): Waiting<Entry> =>
      waits({ kind, step: "torque_pan", bolt: 4, in_pass: 1 });
    const tight = (rows: Waiting<Entry>[]): unknown => stepsNow(CARD, rows, NOON)[3]?.tight;
    expect(tight([bolt("bolt_tight"), bolt("bolt_tight")])).toEqual([[1, 4]]);
    expect(tight([bolt("bolt_tight"), bolt("bolt_loose")])).toEqual([]);
  });

  it("ends a wait that is said to be over, and keeps notes", () => {
    const rows = [
      tick("stands"),
      tick("drain"),
      waits({ kind: "wait_over", step: "drain", why: "overnight" }),
      waits({ kind: "noted", step: "drain", words: "6.1 L", photos: [] }),
    ];
    expect(states(rows)[2]).toBe("ready");
    expect(stepsNow(CARD, rows, NOON)[1]?.notes[0]?.words).toBe("6.1 L");
  });

  it("says stopped where a part was found bad", () => {
    const steps = [
      stepOf("look_again:p3", { is_gate: true }),
      stepOf("fit_plate:p3", { needs: ["look_again:p3"], state: "stopped" }),
    ];
    expect(stepsNow(cardOf(steps), [], NOON)[1]?.state).toBe("stopped");
  });

  it("finds what comes first however far, the next step, the waits that run", () => {
    expect([...beforeIt(STEPS, "torque_pan")].sort()).toEqual(["drain", "pan_off", "stands"]);
    const steps = stepsNow(CARD, [tick("stands"), tick("drain")], NOON);
    expect(nextStep(steps)?.id).toBe("pan_off"); // nothing is ready: the earliest that is left
    expect(countDone(steps)).toBe(2);
    expect(waitsNow(steps, NOON).map(({ id }) => id)).toEqual(["drain"]);
    expect(waitsNow(steps, NOON + 3_600_000)).toEqual([]);
  });
});
