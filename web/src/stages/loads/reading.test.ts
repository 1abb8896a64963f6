import { describe, expect, it } from "vitest";
import { lineSplitter, type Reading, type Understood } from "../../api/logs";
import {
  asChosen,
  clockOf,
  guessedBy,
  isChosen,
  lapTime,
  openGuesses,
  wantedLaps,
  withClock,
  withColumn,
  type Guess,
} from "./reading";

const reading: Reading = {
  columns: { time: { heading: "Zeit", unit: "s" }, speed: { heading: "v", unit: "m/s" } },
  sample_rate_hz: null,
  sensor: { turned_left_deg: 0, level_standing: false, ahead_mm: 0, left_mm: 0 },
};

describe("a reading", () => {
  it("has one clock at a time", () => {
    expect(clockOf(reading)).toBe("time");
    const byRate = withClock(reading, "rate");
    expect(clockOf(byRate)).toBe("rate");
    expect(byRate.columns).toEqual({ speed: { heading: "v", unit: "m/s" } });
    expect(withClock(byRate, "distance").sample_rate_hz).toBeNull();
  });

  it("changes one column and leaves the others", () => {
    const changed = withColumn(reading, "speed", { unit: "km/h" });
    expect(changed.columns.speed).toEqual({ heading: "v", unit: "km/h" });
    expect(changed.columns.time).toEqual(reading.columns.time);
    expect(reading.columns.speed?.unit).toBe("m/s");
  });

  it("asks anew what another column's unit and sign are", () => {
    const known = withColumn(reading, "lateral", { heading: "ay", unit: "g", positive: "left" });
    const other = withColumn(known, "lateral", { heading: "Side" });
    expect(other.columns.lateral).toEqual({ heading: "Side", unit: "" });
  });

  it("waits for the column of another clock, and says so", () => {
    const before = { reading, faults: [], guesses: [] } as unknown as Understood;
    const open = withClock(reading, "distance");
    expect([isChosen(reading), isChosen(open)]).toEqual([true, false]);
    expect(asChosen(before, open).faults).toEqual([
      { field: "channels.distance", message: "choose the column that has the distance" },
    ]);
    const byRate = withClock(reading, "rate");
    expect(asChosen(before, byRate)).toEqual({ reading: byRate, faults: [], guesses: [] });
    const chosen = withColumn(open, "distance", { heading: "s" });
    expect([asChosen(before, chosen).faults, isChosen(chosen)]).toEqual([[], true]);
  });

  it("forgets what was guessed of a column that is another now", () => {
    const guess = { field: "channels.speed.unit", taken: "m/s", words: "of v" };
    const before = { reading, faults: [], guesses: [guess] } as unknown as Understood;
    const told = withColumn(reading, "speed", { unit: "mph" });
    expect(asChosen(before, told).guesses).toEqual([guess]);
    const other = withColumn(reading, "speed", { heading: "GPS speed" });
    expect(asChosen(before, other).guesses).toEqual([]);
  });

  it("drops a channel without a heading", () => {
    expect(withColumn(reading, "speed", { heading: "" }).columns.speed).toBeUndefined();
  });
});

describe("laps to keep", () => {
  const found = [
    { number: 1, start_s: 0, end_s: 20, whole: false },
    { number: 2, start_s: 20, end_s: 100, whole: true },
  ];
  it("are the whole ones, named after the file", () => {
    const laps = wantedLaps(found, "tuesday.csv");
    expect(laps.map((lap) => [lap.name, lap.wanted])).toEqual([
      ["tuesday, lap 1", false],
      ["tuesday, lap 2", true],
    ]);
  });
  it("are all there is when there is one", () => {
    expect(wantedLaps(found.slice(0, 1), "a.b.csv")).toMatchObject([{ name: "a.b", wanted: true }]);
  });
});

describe("a lap time", () => {
  it.each([
    [82.853, "1:22.85"],
    [61.5, "1:01.50"],
    [9.04, "9.04 s"],
  ])("%d s is %s", (seconds, words) => expect(lapTime(seconds)).toBe(words));
});

describe("lines that arrive in pieces", () => {
  it("come out whole", () => {
    const split = lineSplitter();
    expect(split('{"share":0.')).toEqual([]);
    expect(split('5}\n{"share":1}\n{"und')).toEqual(['{"share":0.5}', '{"share":1}']);
    expect(split('erstood":1}\n\n')).toEqual(['{"understood":1}']);
  });
});

describe("guessedBy", () => {
  const unit = { field: "channels.speed.unit", taken: "m/s", words: "at first" };
  const found = (guesses: Guess[]): Understood => ({ reading, guesses }) as unknown as Understood;
  it("keeps what stands of the guesses before, beside those of now", () => {
    const now = { field: "channels.time.unit", taken: "s", words: "now" };
    expect(guessedBy([unit], found([now]))).toEqual([unit, now]);
    expect(guessedBy([{ ...unit, taken: "mph" }], found([now]))).toEqual([now]);
  });
  it("says of one thing what was guessed last", () => {
    const now = { ...unit, words: "now" };
    expect(guessedBy([unit], found([now]))).toEqual([now]);
  });
});

describe("openGuesses", () => {
  const reading = {
    columns: {
      speed: { heading: "v", unit: "km/h", positive: null },
      lateral: { heading: "ay", unit: "g", positive: "right" as const },
    },
    sample_rate_hz: null,
    sensor: { turned_left_deg: 0, level_standing: false, ahead_mm: 0, left_mm: 0 },
  };
  it("drops what the builder has said otherwise", () => {
    const guesses = [
      { field: "channels.speed.unit", taken: "km/h", words: "" },
      { field: "channels.lateral.positive", taken: "left", words: "" },
      { field: "channels.time.unit", taken: "ms", words: "" },
    ];
    expect(openGuesses(guesses, reading).map(({ field }) => field)).toEqual([
      "channels.speed.unit",
    ]);
  });
});
