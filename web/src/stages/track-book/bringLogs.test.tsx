// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as logs from "../../api/logs";
import { BringLogs } from "./BringLogs";

const UNDERSTOOD = {
  faults: [],
  guesses: [],
  remembered: false,
  bad_rows: 0,
  laps: [{ number: 1, start_s: 0, end_s: 80, whole: true }],
  reading: { columns: { oil_pressure: { heading: "p", unit: "bar" } } },
} as unknown as logs.Understood;

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("a log whose headings say all", () => {
  it("asks nothing, and else says what is open", () => {
    expect(logs.asksOf(UNDERSTOOD)).toBe("");
    const guess = { field: "speed", taken: "km/h", words: "speed taken as km/h" };
    expect(logs.asksOf({ ...UNDERSTOOD, guesses: [guess] })).toBe("speed taken as km/h");
    expect(logs.asksOf({ ...UNDERSTOOD, guesses: [guess], remembered: true })).toBe("");
    const fault = { field: "columns.lateral", message: "say its sign" };
    expect(logs.asksOf({ ...UNDERSTOOD, faults: [fault] })).toBe("say its sign");
    expect(logs.asksOf({ ...UNDERSTOOD, bad_rows: 3 })).toContain("3 rows");
    expect(logs.asksOf({ ...UNDERSTOOD, laps: [] })).toContain("no lap");
    const bare = { ...UNDERSTOOD.reading, columns: {} };
    expect(logs.asksOf({ ...UNDERSTOOD, reading: bare })).toContain("oil's pressure");
  });
});

describe("logs brought in from within the book", () => {
  it("takes several, chooses their laps, and says what one leaves open", async () => {
    const kept = vi.fn();
    const lap = (id: number): logs.LapRow => ({ id }) as logs.LapRow;
    const bring = vi
      .spyOn(logs, "bringLog")
      .mockResolvedValueOnce({ name: "a.csv", kept: [lap(3), lap(4)], asks: "" })
      .mockResolvedValueOnce({ name: "b.csv", kept: [], asks: "say its sign" })
      .mockRejectedValueOnce(new Error("The server is away."));
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter>
          <BringLogs buildId={7} onKept={kept} />
        </MemoryRouter>
      </QueryClientProvider>,
    );
    const files = ["a.csv", "b.csv", "c.csv"].map((name) => new File(["x"], name));
    await userEvent.upload(screen.getByLabelText("Logger files of this session"), files);
    expect(await screen.findByText(/a.csv: 2 laps kept/)).toBeTruthy();
    expect(await screen.findByText(/b.csv: say its sign/)).toBeTruthy();
    expect(await screen.findByText(/c.csv: The server is away/)).toBeTruthy();
    expect(bring).toHaveBeenCalledTimes(3);
    expect(kept.mock.calls[0]?.[0]).toEqual([3, 4]);
    expect(screen.getAllByRole("link", { name: "Loads asks the rest" })).toHaveLength(2);
  });
});
