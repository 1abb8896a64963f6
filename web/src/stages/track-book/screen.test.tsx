// @vitest-environment jsdom
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/book";
import * as queries from "../../api/queries";
import * as queues from "../../parts/useQueue";
import { SettingsContext } from "../../parts/settings";
import { SETTINGS } from "../../testing/settings";
import { BOOK, BOOK_STAGE, drivenOf, dueOf, sessionOf } from "../../testing/book";
import { show } from "../../testing/shown";
import { showInBuild } from "../../testing/view";
import { bookTable } from "./bookTable";
import { SessionForm, sessionOf as read, typedOf } from "./SessionForm";
import { TrackBookScreen } from "./TrackBookScreen";
import { Trends } from "./Trends";
import { dueWords, everyWords } from "./words";

const add = vi.fn();

function served(data: api.BookStage | undefined, error: Error | null = null): HTMLElement {
  vi.spyOn(api, "useBook").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  vi.spyOn(queries, "useSession").mockReturnValue({ data: { username: "MK" } } as never);
  vi.spyOn(queues, "useQueue").mockReturnValue({
    rows: [],
    lasts: true,
    fault: null,
    isAway: false,
    add,
    drop: vi.fn(),
    retry: vi.fn(),
  });
  return showInBuild(<TrackBookScreen />, undefined, "/builds/7/track-book").container;
}

const book = (given: Partial<api.Book>): api.BookStage => ({
  ...BOOK_STAGE,
  book: { ...BOOK, ...given },
});
const first = (elements: HTMLElement[]): HTMLElement => elements[0] as HTMLElement;

afterEach(() => {
  vi.restoreAllMocks();
  add.mockReset();
});

describe("the Track book screen", () => {
  it("says what could not be read, and what to do first", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
    served(book({ sessions: [], trends: [] }));
    expect(screen.getByText(/Run it and write it down/)).toBeTruthy();
  });

  it("keeps a limit of the builder's own, and says when it is past", async () => {
    const can = { key: "can", points: [["2026-06-07", 70]], is_rising: true } as const;
    const trends = (given: { limit: number | null; is_past: boolean }): api.Book["trends"] => [
      { ...can, points: [["2026-06-07", 70]], ...given },
    ];
    served(book({ trends: trends({ limit: null, is_past: false }) }));
    expect(screen.getByText("well off what was usual")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "no limit of your own" }));
    const typed = screen.getByLabelText("At most, ml/h");
    await userEvent.type(typed, "x");
    expect(screen.getByRole("button", { name: "Keep" }).hasAttribute("disabled")).toBe(true);
    await userEvent.clear(typed);
    await userEvent.type(typed, "60,5");
    await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    expect(add.mock.calls[0]?.[0]).toEqual({ kind: "trend_limit", key: "can", limit: 60.5 });
    cleanup();
    served(book({ trends: trends({ limit: 60, is_past: true }) }));
    expect(screen.getByText("past your limit")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "at most 60 ml/h" }));
    await userEvent.clear(screen.getByLabelText("At most, ml/h"));
    await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    expect(add.mock.calls[1]?.[0]).toEqual({ kind: "trend_limit", key: "can", limit: null });
  });

  it("takes a limit in the units shown, and leaves one that is not typed anew", async () => {
    const trend = {
      key: "lowest", points: [["2026-06-07", 3]], is_rising: false, limit: 2.5, is_past: false,
    } as unknown as api.Book["trends"][number]; // prettier-ignore
    const write = vi.fn();
    show(<Trends trends={[trend]} onWrite={write} />, { ...SETTINGS, system: "us" });
    for (const typed of ["", "29"]) {
      await userEvent.click(screen.getByRole("button", { name: "at least 36 psi" }));
      if (typed) await userEvent.clear(screen.getByLabelText("At least, psi"));
      if (typed) await userEvent.type(screen.getByLabelText("At least, psi"), typed);
      await userEvent.click(screen.getByRole("button", { name: "Keep" }));
    }
    const limits = write.mock.calls.map(([entry]) => (entry as { limit: number }).limit);
    expect(limits[0]).toBe(2.5);
    expect(limits[1]).toBeCloseTo(2.0, 2);
  });

  it("shows a strip-down against the one before", () => {
    const sound = {
      found: "sound",
      off_flat_mm: null,
      note: "",
      on: "2026-05-01",
      by: "MK",
    } as const;
    const watch = { ...sound, found: "watch", off_flat_mm: 0.2, on: "2026-06-07" } as const;
    const row = {
      item: "Flatness of the rail",
      now: watch,
      before: sound,
      turned: "worse",
    } as const;
    served({ ...book({}), strip_down: [row] });
    const told = screen.getByLabelText("At the strip-down");
    expect(told.textContent).toContain("watch, 0.20 mm off flat, 7 June");
    expect(told.textContent).toContain("worse: was sound, 1 May");
    cleanup();
    served(book({}));
    expect(screen.getByText(/Nothing was looked at/)).toBeTruthy();
  });

  it("shows sessions, what one used, its trends, and two changes at once", () => {
    const page = served(
      book({
        sessions: [drivenOf("s2", { changed: ["a plate: new", "mouth's gap: 8 to 9 mm"] })],
        several_changed: true,
      }),
    );
    expect(screen.getByRole("heading", { level: 1 }).textContent).toContain("18 laps, 121 °C");
    expect(page.textContent).toContain("0.3 L neither in the pan nor in the can".slice(4));
    expect(page.textContent).toContain("adjust one thing at a time");
    expect(page.querySelector("[data-trend=can]")?.textContent).toContain("35 ml/h");
  });

  it("names the one thing to change next, and leads to where it is done", () => {
    served(BOOK_STAGE);
    const next = first(screen.getAllByRole("region", { name: "Change one thing next" }));
    expect(next.textContent).toContain("Pickup joint seal first.");
    expect(within(next).getByRole("link").getAttribute("href")).toMatch(/\/job-card$/);
  });

  it("writes a new session down with what was there before", async () => {
    served(BOOK_STAGE);
    await userEvent.click(first(screen.getAllByRole("button", { name: "New session" })));
    const form = first(screen.getAllByRole("form", { name: "A session" }));
    expect(within(form).getByLabelText<HTMLInputElement>("Circuit").value).toBe("Saltmarsh Ring");
    await userEvent.type(within(form).getByLabelText("Engine ran, h"), "1,5");
    await userEvent.type(within(form).getByLabelText("Out of the catch can, ml"), "40");
    await userEvent.click(within(form).getByRole("button", { name: "Write it down" }));
    expect(add.mock.calls[0]?.[0]).toMatchObject({
      kind: "session",
      circuit: "Saltmarsh Ring",
      hours: 1.5,
      can_ml: 40,
      level_before_mm: null,
    });
    expect((add.mock.calls[0]?.[0] as { id: string }).id).toMatch(/^s[0-9a-f]{12}$/);
  });

  it("writes one anew under its own id, and strikes it out", async () => {
    served(BOOK_STAGE);
    await userEvent.click(screen.getByRole("button", { name: "Strike it out" }));
    expect(add.mock.calls[0]?.[0]).toEqual({ kind: "session_struck", id: "s2" });
    await userEvent.click(screen.getByRole("button", { name: "Write it anew" }));
    const form = first(screen.getAllByRole("form", { name: "A session" }));
    await userEvent.click(within(form).getByRole("button", { name: "Write it down" }));
    expect(add.mock.calls[1]?.[0]).toMatchObject({
      id: "s2",
      laps: 18,
      words: "pushes in corner 5",
    });
  });

  it("says what is due, renews it, takes hours of one's own", async () => {
    served(BOOK_STAGE);
    const row = document.querySelectorAll("[data-due=jointseal]")[0] as HTMLElement;
    expect(row.textContent).toContain("overdue 1.6 h");
    await userEvent.click(within(row).getByRole("button"));
    await userEvent.click(within(row).getByRole("button", { name: "Renewed" }));
    expect(add.mock.calls[0]?.[0]).toMatchObject({
      kind: "item_done",
      item: "jointseal",
      how: "renewed",
      found: "sound",
    });
    await userEvent.click(within(row).getByRole("button", { name: /overdue/ }));
    const field = within(row).getByLabelText(/Every so many hours/);
    await userEvent.clear(field);
    await userEvent.type(field, "20");
    await userEvent.click(within(row).getByRole("button", { name: "Hours of my own" }));
    expect(add.mock.calls[1]?.[0]).toMatchObject({ kind: "item", every_hours: 20 });
  });
});

describe("what is written", () => {
  const rest = { weather: "dry" as const, dipped: "cold" as const, photos: [] as string[] };
  const typed = typedOf(sessionOf("s1"), null, SETTINGS);
  it("says what keeps it from being kept", () => {
    expect(read({ ...typed, can_ml: "a cup" }, "s1", rest, SETTINGS)).toBe(
      "Out of the catch can cannot be read",
    );
    const missing = "is still to be filled in";
    expect(read({ ...typed, hours: "" }, "s1", rest, SETTINGS)).toBe(`Engine ran ${missing}`);
    expect(read({ ...typed, hours: "48" }, "s1", rest, SETTINGS)).toMatchObject({ hours: 48 });
    for (const hours of ["0", "48.1"])
      expect(read({ ...typed, hours }, "s1", rest, SETTINGS)).toBe(
        "Engine ran: more than 0, at most 48 h",
      );
    expect(read({ ...typed, circuit: " " }, "s1", rest, SETTINGS)).toBe(`Circuit ${missing}`);
    expect(read(typed, "s1", rest, SETTINGS)).toMatchObject({
      id: "s1",
      level_after_mm: 99,
      added_l: 0,
    });
  });

  it("is typed in the units shown, and what was not typed anew stays to the last digit", () => {
    const us = { ...SETTINGS, system: "us" as const };
    const session = sessionOf("s1", { hottest_c: 121, added_l: 0.4, level_before_mm: 101 });
    const shown = typedOf(session, null, us);
    expect([shown.hottest_c, shown.added_l, shown.level_before_mm]).toEqual([
      "249.8",
      "0.423",
      "3.9764",
    ]);
    const kept = (more: Partial<typeof shown>) =>
      read({ ...shown, ...more }, "s1", rest, us, session);
    expect(kept({})).toMatchObject({ hottest_c: 121, added_l: 0.4, level_before_mm: 101 });
    expect(kept({ hottest_c: "212" })).toMatchObject({ hottest_c: 100, level_before_mm: 101 });
    expect(kept({ hottest_c: "" })).toMatchObject({ hottest_c: null });
    expect(read({ ...shown, hottest_c: "250" }, "s1", rest, us)).toMatchObject({
      hottest_c: 218 / 1.8,
    });
  });

  it("keeps the unit that it was opened in, when others are shown meanwhile", async () => {
    const form = (system: "metric" | "us") => (
      <SettingsContext value={{ ...SETTINGS, system }}>
        <SessionForm session={null} before={null} isDry={false} onKeep={keep} onLeave={vi.fn()} />
      </SettingsContext>
    );
    const keep = vi.fn();
    const { rerender } = render(form("metric"));
    await userEvent.type(screen.getByLabelText("Circuit"), "Heath Park");
    await userEvent.type(screen.getByLabelText("Engine ran, h"), "1");
    await userEvent.type(screen.getByLabelText("Oil, hottest, °C"), "121");
    rerender(form("us"));
    expect(screen.getByLabelText("Oil, hottest, °C")).toHaveProperty("value", "121");
    await userEvent.click(screen.getByRole("button", { name: "Write it down" }));
    expect(keep.mock.lastCall?.[0]).toMatchObject({ hottest_c: 121 });
  });

  it("is read out as a table, and due in words", () => {
    expect(bookTable(BOOK).rows[0]?.slice(0, 5)).toEqual(["2026-06-07", "Saltmarsh Ring", "dry", 3, 18]); // prettier-ignore
    expect(dueWords(dueOf("a", { state: "soon", hours_left: 2.04 }))).toBe("in 2.0 h");
    expect(dueWords(dueOf("a", { state: "due", hours_left: 0 }))).toBe("due now");
    expect(dueWords(dueOf("a", { state: "overdue", hours_left: null, days_left: -3 }))).toBe("overdue 3 days"); // prettier-ignore
    expect(everyWords(dueOf("a", { every_days: 365 }))).toBe(
      "every 12 h or every 365 days, a guess",
    );
  });
});
