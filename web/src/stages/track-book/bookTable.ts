import type { Book } from "../../api/book";
import type { Table } from "../../parts/csv";

/** All sessions as figures, the newest first. */
export const bookTable = (book: Book): Table => ({
  title: "Track book",
  headings: [
    "day",
    "circuit",
    "track",
    "state",
    "laps",
    "engine ran [h]",
    "oil, hottest [°C]",
    "outside [°C]",
    "level before [mm]",
    "level after [mm]",
    "poured in [L]",
    "catch can [ml]",
    "oil used [L]",
    "lowest pressure [bar]",
    "what the driver says",
  ],
  rows: book.sessions.map(({ session, state, hottest_c, lowest_bar, oil_used_l: used }) => [
    session.on,
    session.circuit,
    session.weather,
    state,
    session.laps,
    session.hours,
    hottest_c ?? "",
    session.ambient_c ?? "",
    session.level_before_mm ?? "",
    session.level_after_mm ?? "",
    session.added_l,
    session.can_ml ?? "",
    used ?? "",
    lowest_bar ?? "",
    session.words,
  ]),
});
