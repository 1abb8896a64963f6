import type { Book, BookStage, Driven, Due, SessionRow } from "../api/book";

export const sessionOf = (id: string, given: Partial<SessionRow> = {}): SessionRow => ({
  kind: "session",
  id,
  on: "2026-06-07",
  circuit: "Saltmarsh Ring",
  weather: "dry",
  tyres: "slicks",
  laps: 18,
  hours: 2,
  oil: "",
  level_before_mm: 103,
  level_after_mm: 99,
  dipped: "cold",
  added_l: 0,
  can_ml: 70,
  hottest_c: 121,
  ambient_c: 24,
  lowest_bar: 1.8,
  words: "pushes in corner 5",
  photos: [],
  ...given,
});

export const drivenOf = (id: string, given: Partial<Driven> = {}): Driven => ({
  session: sessionOf(id),
  dips: null,
  state: 3,
  by: "MK",
  at: "2026-06-07T18:20:00Z",
  oil_used_l: 0.42,
  oil_used_l_h: 0.21,
  can_ml_h: 35,
  lost_l: 0.35,
  over_ambient_c: 97,
  hottest_c: 121,
  lowest_bar: 1.8,
  changed: [],
  ...given,
});

export const dueOf = (id: string, given: Partial<Due> = {}): Due => ({
  id,
  name: "pickup joint's seal",
  every_hours: 12,
  every_days: null,
  each_session: false,
  is_usual: true,
  state: "overdue",
  hours_left: -1.6,
  days_left: null,
  run_hours: 13.6,
  done: [],
  ...given,
});

export const BOOK: Book = {
  sessions: [drivenOf("s2"), drivenOf("s1", { session: sessionOf("s1", { on: "2026-05-24" }) })],
  due: [dueOf("jointseal"), dueOf("hoses", { name: "hoses", state: "later", hours_left: 26.4 })],
  hours: 13.6,
  trends: [{ key: "can", points: [["2026-05-24", 55], ["2026-06-07", 35]], is_rising: false, limit: null, is_past: false }], // prettier-ignore
  several_changed: false,
  hold_ups: [],
  next: {
    what: "seal",
    title: "Pickup joint seal first",
    why: "The gallery is short on the straights as well.",
    measure: "The same laps with a new seal.",
  },
};

export const BOOK_STAGE: BookStage = { state: 3, driven: 3, book: BOOK, strip_down: [] };
