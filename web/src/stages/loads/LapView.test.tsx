// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { LAP } from "../../testing/logs";
import { show } from "../../testing/shown";
import { CornerTable } from "./CornerTable";
import { LapView } from "./LapView";

const calls = vi.hoisted(() => ({ rename: vi.fn(), remove: vi.fn(), corners: vi.fn() }));
vi.mock("../../api/logs", async () => {
  const { LAP: lap } = await import("../../testing/logs");
  return {
    useLap: () => ({ data: lap }),
    useRenameLap: () => ({ mutate: calls.rename, error: null }),
    useDeleteLap: () => ({ mutate: calls.remove, error: null, isPending: false }),
    useEditCorners: () => ({ mutate: calls.corners }),
  };
});

const [onJudge, onSee, onGone] = [vi.fn(), vi.fn(), vi.fn()];
function view(judged: boolean): void {
  show(
    <LapView
      lapId={5}
      nose="right"
      extra={null}
      isShown={judged}
      {...{ judged, onJudge, onSee, onGone }}
    />,
  );
}
async function retype(label: string, text: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
}

beforeEach(() => vi.clearAllMocks());

describe("LapView", () => {
  it("says time, line and what is held", () => {
    view(true);
    expect(screen.getByText("1:21.00")).toBeTruthy();
    expect(screen.getByText("Line driven, from GPS")).toBeTruthy();
    expect(screen.getByText(/Crests and dips are in it/)).toBeTruthy();
    // braking, gaining speed, left turn (oil right, 270°), right turn (oil left, 90°)
    const row = screen.getByRole("row", { name: /^1 s/ });
    expect([...row.querySelectorAll("td")].map((cell) => cell.textContent)).toEqual([
      "0.90",
      "0.40",
      "1.00",
      "1.20",
    ]);
    expect(document.querySelectorAll("[data-held]")).toHaveLength(2);
  });

  it("shows its loads along the engine as well", async () => {
    view(true);
    expect(screen.getByText("braking", { selector: "svg text" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "along the engine" }));
    expect(screen.getByText("oil to the nose")).toBeTruthy();
  });

  it("is judged by, or looked at in the oil", async () => {
    view(false);
    await userEvent.click(screen.getByRole("button", { name: "Judge by it" }));
    expect(onJudge).toHaveBeenCalledOnce();
  });

  it("is renamed, but not to nothing", async () => {
    view(true);
    await retype("Name of the lap", "evening");
    expect(calls.rename).toHaveBeenCalledExactlyOnceWith({
      lapId: 5,
      name: "evening",
      baseName: LAP.name,
    });
    await retype("Name of the lap", " ");
    expect(calls.rename).toHaveBeenCalledOnce();
    expect(screen.getByLabelText("Name of the lap")).toHaveProperty("value", LAP.name);
  });

  it("asks before it goes", async () => {
    view(true);
    await userEvent.click(screen.getByRole("button", { name: "remove" }));
    await userEvent.click(screen.getByRole("button", { name: "Remove the lap" }));
    expect(calls.remove.mock.lastCall?.[0]).toEqual({ lapId: 5, evenIfUsed: false });
  });

  it("edits a corner and leaves the others", async () => {
    view(true);
    await retype("Name of corner 1", "Hairpin");
    expect(calls.corners.mock.lastCall?.[0]).toEqual({
      lapId: 5,
      corners: [
        { name: "Hairpin", start_s: 8, end_s: 11.7 },
        { name: "Mill bend", start_s: 17, end_s: 21 },
      ],
    });
    await retype("End of corner 2", "21,5 s");
    expect(calls.corners.mock.lastCall?.[0]).toMatchObject({ corners: [{}, { end_s: 21.5 }] });
    await retype("Start of corner 2", "soon");
    expect(screen.getByRole("alert").textContent).toContain("no number of seconds");
    expect(calls.corners).toHaveBeenCalledTimes(2);
  });

  it("shows a figure that was refused until the lap is another", async () => {
    const table = (lap: typeof LAP) => <CornerTable lap={lap} picked={null} onPick={vi.fn()} />;
    const { rerender } = show(table(LAP));
    const end = () => screen.getByLabelText("End of corner 2");
    await retype("End of corner 2", "99");
    expect(end()).toHaveProperty("value", "99");
    rerender(table({ ...LAP, corners_edited: false }));
    expect(end()).toHaveProperty("value", "21.0");
  });

  it("takes a corner out, adds one, and finds them again", async () => {
    view(true);
    await userEvent.click(screen.getByRole("button", { name: "Remove corner 1" }));
    expect(calls.corners.mock.lastCall?.[0]).toMatchObject({ corners: [{ name: "Mill bend" }] });
    await userEvent.click(screen.getByRole("button", { name: "add a corner" }));
    const { corners } = calls.corners.mock.lastCall?.[0] as { corners: { start_s: number }[] };
    expect(corners.map(({ start_s }) => start_s)).toEqual([8, 17, 41]);
    await userEvent.click(screen.getByRole("button", { name: "find them again" }));
    expect(calls.corners.mock.lastCall?.[0]).toEqual({ lapId: 5, corners: null });
  });

  it("says a name back by its number when the number is typed", async () => {
    view(true);
    await retype("Name of corner 2", "corner 2");
    expect(calls.corners.mock.lastCall?.[0]).toMatchObject({ corners: [{}, { name: null }] });
  });

  it("marks on the line the corner that is pointed at", () => {
    view(true);
    const bold = () =>
      [...document.querySelectorAll("text[font-weight='700']")].map((t) => t.textContent);
    expect(bold()).toEqual([]);
    const row = screen.getByLabelText("Name of corner 2").closest("tr");
    if (row) fireEvent.mouseEnter(row);
    expect(bold()).toEqual(["Mill bend"]);
  });
});
