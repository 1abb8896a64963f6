import { describe, expect, it } from "vitest";
import type { Offered } from "../../api/fit";
import { entered, type Waiting } from "../../offline/queue";
import { FIT, foundOf, placeOf, roundOf } from "../../testing/fit";
import { bestView, layoutOf, pointed } from "./envelope";
import { fitTable } from "./fitTable";
import { fitNow, stateOf } from "./standing";
import { stepped } from "./Stepper";
import { nextWords, roundSentence } from "./words";

const waits = (entry: Offered): Waiting<Offered> => entered(entry, "MK");
const found = (gap: number | null, touches = false, place = "k3:pan"): Waiting<Offered> =>
  waits({ kind: "found", place, touches, gap_mm: touches ? null : gap, done: "", photos: [] });
const of = (rows: Waiting<Offered>[], id = "k3:pan"): ReturnType<typeof fitNow>["places"][number] =>
  fitNow(FIT, rows).places.find((place) => place.id === id) as never;

describe("a test fit with what waits on this device", () => {
  it("stands by what was found in this round, both sides of what is wanted", () => {
    expect(of([]).state).toBe("not_looked");
    expect(of([found(24.9)]).state).toBe("tight");
    expect(of([found(25)]).state).toBe("sound");
    expect(of([found(null, true)])).toMatchObject({ state: "touches", isWaiting: true });
    const late = placeOf("a", 1, { found: [foundOf(1, 30)] });
    expect(stateOf(late, 2)).toBe("not_looked");
  });

  it("keeps one finding a round, and what is accepted until something else is found", () => {
    const accept = waits({ kind: "accepted", place: "k3:pan", why: "sleeved" });
    expect(of([found(20), found(23)]).found).toHaveLength(1);
    expect(of([found(23), accept]).state).toBe("accepted");
    expect(of([found(23), accept, found(20)]).state).toBe("tight");
  });

  it("begins and closes rounds, says places, drops them, wants another gap", () => {
    const begin = waits({ kind: "round_begun", means: "tape", car_on: "wheels", words: "" });
    const now = fitNow(FIT, [found(30), begin, found(12)]);
    expect(now.rounds.map(({ number }) => number)).toEqual([1, 2]);
    expect(now.rounds[1]?.caution).toBe("It shows where.");
    expect(now.places.find(({ id }) => id === "k3:pan")?.found.map(({ round }) => round)).toEqual([1, 2]); // prettier-ignore
    const said = waits({ kind: "place_said", place: "o1", name: "lid to mount", subject: "pan", wanted_mm: 8, at_mm: null }); // prettier-ignore
    expect(of([said], "o1")).toMatchObject({ number: 3, is_said: true, wanted_mm: 8 });
    const dropped = waits({ kind: "dropped", place: "k3:pan" });
    expect(fitNow(FIT, [dropped]).places).toHaveLength(1);
    const wanted = waits({ kind: "wanted", place: "k3:pan", wanted_mm: 20 });
    expect(of([found(21), wanted]).state).toBe("sound");
    expect(fitNow(FIT, [waits({ kind: "round_closed" })]).rounds[0]?.closed).not.toBeNull();
  });

  it("puts the worst first, and says the round in a sentence", () => {
    const now = fitNow(FIT, [found(null, true, "ground:pan"), found(23)]);
    expect(now.places.map(({ id }) => id)).toEqual(["ground:pan", "k3:pan"]);
    expect(roundSentence(now)).toBe("Round 1: pan to ground touches, tight at pan to exhaust");
    expect(roundSentence(fitNow(FIT, []))).toBe("Round 1: 2 to look at");
    expect(roundSentence(fitNow({ ...FIT, rounds: [] }, []))).toBe("Nothing was offered up yet");
    expect(roundSentence(fitNow({ ...FIT, places: [] }, []))).toBe(
      "Round 1: no place to look at yet",
    );
    expect(fitNow(FIT, [{ ...found(3), refused: "comes before any round" }]).open).toHaveLength(2);
  });

  it("says what is next, the engine's rocking with it", () => {
    const place = placeOf("k3:pan", 1, { found: [foundOf(1, 23)], state: "tight" });
    expect(nextWords(place, 6, [], "metric")).toContain("so that is 17 mm then");
    const near = placeOf("k3:pan", 1, { found: [foundOf(1, 4)], state: "tight" });
    expect(nextWords(near, 6, [], "metric")).toContain("it touches then");
  });

  it("is read out as a table, round by round", () => {
    const fit = { ...FIT, rounds: [roundOf(1), roundOf(2)] };
    const table = fitTable(fitNow(fit, [found(null, true)]));
    expect(table.headings).toContain("round 2 [mm]");
    expect(table.rows[0]?.slice(0, 6)).toEqual([1, "pan to exhaust", 25, 19, "", "touches"]);
  });
});

describe("the gap that is stepped", () => {
  it("goes by whole millimetres or thirty-seconds, never below nil", () => {
    expect(stepped(23.4, 1, "metric")).toBe(24);
    expect(stepped(0, -1, "metric")).toBe(0);
    expect(stepped(25.4, 1, "us")).toBeCloseTo(26.194, 2);
    expect(stepped(500, 5, "metric")).toBe(500);
  });
});

describe("the envelope", () => {
  const frame = FIT.frames[0] as never as Parameters<typeof bestView>[0];
  it("has ahead and the car's left to the left, and is pointed at and back", () => {
    for (const view of frame.views) {
      const layout = layoutOf(view, 400, 300);
      expect(layout.place([90, -50])[0]).toBeLessThan(layout.place([10, -50])[0]);
      const [x, y] = layout.back(layout.place([30, -40]));
      expect(x).toBeCloseTo(30, 6);
      expect(y).toBeCloseTo(-40, 6);
    }
    expect(pointed([1, 2, 3], "side", [9.4, -8.2])).toEqual([9, 2, -8]);
    expect(pointed([1, 2, 3], "front", [9, -8])).toEqual([1, 9, -8]);
  });

  it("shows a gap in the view where its ends lie farthest apart", () => {
    expect(bestView(frame, "k3:pan")).toBe("front");
    expect(bestView(frame, "nowhere")).toBe("front");
  });

  it("puts a place that is looked at from near in the sheet's middle", () => {
    const layout = layoutOf(frame.views[1] as never, 390, 226, [100, 50, -60]);
    const [x, y] = layout.spot([100, 50, -60]);
    expect(x).toBeCloseTo(195, 0);
    expect(y).toBeCloseTo(layout.height / 2, 0);
  });
});
