// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState, type ReactElement } from "react";
import { describe, expect, it, vi } from "vitest";
import type { Understood as UnderstoodOut } from "../../api/logs";
import { UNDERSTOOD } from "../../testing/logs";
import { show } from "../../testing/shown";
import { Understood } from "./Understood";

function understood(change: Partial<UnderstoodOut> = {}) {
  const onKeep = vi.fn();
  show(
    <Understood
      understood={{ ...UNDERSTOOD, ...change }}
      fileName="tuesday.csv"
      busy={false}
      onChange={vi.fn()}
      onKeep={onKeep}
    />,
  );
  return onKeep;
}
const keep = (): HTMLElement => screen.getByRole("button", { name: /^Keep/ });

describe("Understood", () => {
  it("keeps the whole laps under names of their own", async () => {
    const onKeep = understood();
    expect(keep().textContent).toBe("Keep 2 laps, judge by the last");
    await userEvent.click(screen.getByLabelText("Keep lap 2"));
    expect(keep().textContent).toBe("Keep it and judge by this lap");
    const name = screen.getByLabelText("Name of lap 3");
    await userEvent.clear(name);
    await userEvent.type(name, "quali");
    await userEvent.click(keep());
    const [laps, leaveOut] = onKeep.mock.lastCall as [{ name: string; start_s: number }[], boolean];
    expect(laps.map((lap) => [lap.name, lap.start_s])).toEqual([["quali", 100]]);
    expect(leaveOut).toBe(false);
  });

  it("keeps nothing on guesses until they are taken, all by one press", async () => {
    const guesses = [
      { field: "channels.speed.unit", taken: "km/h", words: "speed is in km/h: it reaches 214" },
      { field: "channels.lateral.positive", taken: "left", words: "lateral g counts left" },
    ];
    const onKeep = understood({ guesses });
    expect(screen.getByText(/it reaches 214/)).toBeTruthy();
    expect(keep()).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByLabelText("all of that is right"));
    await userEvent.click(keep());
    expect(onKeep).toHaveBeenCalledOnce();
  });

  it("wants a yes of its own for what is guessed later", async () => {
    const first = { field: "channels.speed.unit", taken: "km/h", words: "it reaches 214" };
    const later = { field: "channels.time.unit", taken: "ms", words: "its steps of 20" };
    function Read(): ReactElement {
      const [guesses, setGuesses] = useState([first]);
      return (
        <Understood
          understood={{ ...UNDERSTOOD, guesses }}
          fileName="tuesday.csv"
          busy={false}
          onChange={() => setGuesses(guesses.length === 1 ? [first, later] : [later])}
          onKeep={vi.fn()}
        />
      );
    }
    show(<Read />);
    await userEvent.click(screen.getByLabelText("that is right"));
    expect(keep()).toHaveProperty("disabled", false);
    await userEvent.selectOptions(screen.getByLabelText("Unit of speed"), "mph");
    expect(keep()).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByLabelText("all of that is right"));
    expect(keep()).toHaveProperty("disabled", false);
    // one of them is the builder's own word now; the other was agreed to
    await userEvent.selectOptions(screen.getByLabelText("Unit of speed"), "km/h");
    expect(keep()).toHaveProperty("disabled", false);
  });

  it("keeps none without a name, and none when none is wanted", async () => {
    understood();
    await userEvent.clear(screen.getByLabelText("Name of lap 3"));
    expect(keep()).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByLabelText("Keep lap 2"));
    await userEvent.click(screen.getByLabelText("Keep lap 3"));
    expect(keep()).toHaveProperty("disabled", true);
  });

  it("waits for the user to agree before rows are left out", async () => {
    const faults = [{ field: "line 19, column v", message: "'fast' is not a number" }];
    const onKeep = understood({ bad_rows: 12, bad_row_faults: faults });
    expect(screen.getByText("12 rows cannot be read")).toBeTruthy();
    expect(screen.getByText("and 11 more")).toBeTruthy();
    expect(keep()).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByLabelText(/leave them out/));
    await userEvent.click(keep());
    expect(onKeep.mock.lastCall?.[1]).toBe(true);
  });

  it("says what is wrong with the file as a whole", () => {
    understood({
      sentences: [],
      faults: [{ field: "file", message: "lasts 5 h; 3 h is the most" }],
    });
    expect(screen.getByRole("alert").textContent).toContain("3 h is the most");
    expect(screen.queryByRole("button", { name: /^Keep/ })).toBeNull();
  });

  it("says that such a file was read before, and where its line comes from", () => {
    understood({ remembered: true, from_gps: true });
    expect(screen.getByText(/as you read such a file the last time/)).toBeTruthy();
    expect(screen.getByText("Line driven, from GPS.")).toBeTruthy();
  });
});
