import { describe, expect, it } from "vitest";
import { dayWords, momentWords, today } from "./days";

const now = new Date(2026, 10, 30, 23, 50);

describe("a day in words", () => {
  it("leaves this year out and says any other", () => {
    expect(dayWords("2026-12-31", { now })).toBe("31 December");
    expect(dayWords("2027-01-01", { now })).toBe("1 January 2027");
    expect(dayWords("2025-12-31", { now })).toBe("31 December 2025");
    expect(dayWords("2026-12-31", { now, year: true })).toBe("31 December 2026");
  });

  it("has the day of the week and a short month where they are asked", () => {
    expect(dayWords("2027-01-05T17:30:00", { now, weekday: true, short: true })).toMatch(
      /^Tue,? 5 Jan 2027$/,
    );
    expect(dayWords("2026-12-01T08:00:00", { now, short: true })).toBe("1 Dec");
  });

  it("takes a day alone as its noon, so that no zone moves it", () => {
    expect(dayWords("2026-12-01", { now })).toBe("1 December");
  });
});

it("has a moment with its day and time, and its year where that is another", () => {
  expect(momentWords("2026-11-30T22:53:50", now)).toBe("30 Nov, 22:53");
  expect(momentWords("2025-11-30T07:05:00", now)).toBe("30 Nov 2025, 07:05");
});

it("has today as this device counts, not as Greenwich does", () => {
  expect(today(now)).toBe("2026-11-30");
  expect(today(new Date(2027, 0, 5, 0, 10))).toBe("2027-01-05");
});
