import type { Judged, JudgedTrace } from "../api/judged";

const place = (
  number: number,
  word: Judged["places"][number]["word"],
  given: Partial<Judged["places"][number]> = {},
): Judged["places"][number] => ({
  number,
  name: `corner ${number}`,
  hand: "left",
  word,
  laps: word === "hit" || word === "miss" ? 2 : 0,
  of: 2,
  late_s: word === "hit" ? 0.04 : null,
  deeper_pct: word === "hit" ? 3 : null,
  at_m: [100 * Math.cos(number), 60 * Math.sin(number)],
  ...given,
});

const dip = (
  number: number,
  word: Judged["places"][number]["word"],
  start: number,
): Judged["laps"][number]["dips"][number] => ({
  word,
  number,
  start_s: start,
  end_s: start + 0.6,
  late_s: word === "hit" ? 0.04 : null,
  lowest_bar: word === "hit" || word === "miss" ? 1.8 : null,
  forecast_bar: word === "miss" ? null : 2.3,
});

const lap = (name: string): Judged["laps"][number] => ({
  name,
  lowest_bar: 1.8,
  hits: 1,
  misses: 1,
  false_alarms: 1,
  not_shown: 0,
  dips: [dip(1, "false_alarm", 8), dip(5, "hit", 41), dip(8, "miss", 62)],
});

/** Two laps: one dip met where it was forecast, one missed, one false alarm. */
export const JUDGED: Judged = {
  count: {
    met: 2,
    foreseen: 1,
    false_alarms: 1,
    not_shown: 0,
    laps: 2,
    has_forecast: true,
    looks: "slosh",
  },
  headline: "1 of 2 dips came where forecast",
  places: [place(5, "hit"), place(8, "miss"), place(1, "false_alarm")],
  laps: [lap("Lap 1"), lap("Lap 2")],
  left_out: [{ name: "Out lap", why: "has no oil pressure" }],
  sensor: {
    rate_hz: 20,
    lag_s: 0.05,
    shortest_s: 0.1,
    words: "20 readings a second: a dip under 0.10 s cannot be told",
  },
  resembles: {
    looks: "slosh",
    words: "It looks like oil leaving the mouth.",
    rpm: [],
    short_pct: [],
  },
  forecast: {
    model: "Moving oil, coarse cells",
    lap: "lap 7",
    state: 3,
    run: 4,
    made_at: "2026-06-07T18:00:00Z",
    dips: 2,
    dry_s: 1.2,
    lowest_bar: 2.3,
  },
  line_m: Array.from({ length: 60 }, (_, k) => [
    100 * Math.cos((k / 60) * 6.28),
    60 * Math.sin((k / 60) * 6.28),
  ]),
};

const TIMES = Array.from({ length: 101 }, (_, k) => 60 + k / 20);

export const TRACE: JudgedTrace = {
  lap: "Lap 1",
  place: "corner 8",
  from_s: 62,
  to_s: 62.6,
  time_s: TIMES,
  measured_bar: TIMES.map((time) => (time > 62 && time < 62.6 ? 1.8 : 5)),
  expected_bar: TIMES.map(() => 5),
  usual_bar: TIMES.map(() => 5),
  rpm: TIMES.map(() => 6000),
  load_g: TIMES.map(() => 1),
};
