// @vitest-environment jsdom
import { fireEvent, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import * as api from "../../api/lines";
import * as sizes from "../../parts/size";
import { endOf, lineOf, STAGE } from "../../testing/lines";
import { showInBuild, viewOf } from "../../testing/view";
import { LinesScreen } from "./LinesScreen";

const mutateAsync = vi.fn();
const tick = vi.fn();

function served(data: api.LinesStage | undefined, error: Error | null = null): HTMLElement {
  vi.spyOn(api, "useLines").mockReturnValue({ data, error, refetch: vi.fn() } as never);
  vi.spyOn(api, "useTick").mockReturnValue({ mutate: tick, error: null } as never);
  vi.spyOn(sizes, "useSize").mockReturnValue([() => undefined, { width: 480, height: 400 }]);
  mutateAsync.mockResolvedValue({});
  const edit = { mutate: vi.fn(), mutateAsync, reset: vi.fn() } as never;
  return showInBuild(<LinesScreen />, viewOf({ edit })).container;
}

const sent = (): unknown => (mutateAsync.mock.calls.at(-1)?.[0] as { act: unknown }).act;

afterEach(() => {
  vi.restoreAllMocks();
  [mutateAsync, tick].forEach((each) => each.mockReset());
});

describe("the Lines screen", () => {
  it("says what could not be read, and that there are none", () => {
    served(undefined, new Error("The server is away."));
    expect(screen.getByRole("alert").textContent).toContain("The server is away.");
    served({ ...STAGE, lines: { ...STAGE.lines, lines: [] } });
    expect(screen.getByText(/No hose and no hard line/)).toBeTruthy();
  });

  it("lists every line, draws it in both views, and shows the one picked", async () => {
    const page = served(STAGE);
    expect(page.querySelectorAll("[data-line='1']")).toHaveLength(2);
    expect(page.querySelectorAll("[data-line='2']")).toHaveLength(0); // not laid
    expect(page.querySelectorAll("[data-point]")).toHaveLength(6);
    await userEvent.click(screen.getByRole("button", { name: /breathing/ }));
    expect(screen.getByRole("heading", { level: 1 }).textContent).toContain("no clips told");
    await userEvent.click(screen.getByRole("button", { name: "Lay it" }));
    expect(sent()).toMatchObject({ kind: "lay_line", run: "r2", points: [{}, {}] });
  });

  it("moves a corner with the arrow keys, and sends the whole way", () => {
    served(STAGE);
    const corner = screen.getByRole("button", { name: "Move the bend 1, from above" });
    fireEvent.keyDown(corner, { key: "ArrowLeft" });
    expect(sent()).toMatchObject({
      kind: "lay_line",
      run: "r1",
      points: [
        { at_mm: [100, -150, 120] },
        { at_mm: [105, -300, 120], radius_mm: 130 },
        { at_mm: [400, -300, 120] },
      ],
    });
    fireEvent.keyDown(screen.getByRole("button", { name: "Move the end, from the left" }), {
      key: "ArrowUp",
      shiftKey: true,
    });
    expect(sent()).toMatchObject({ points: [{}, {}, { at_mm: [400, -300, 121] }] });
  });

  it("puts a part into the line, at a bend of its way, or says why not", async () => {
    served(STAGE);
    await userEvent.click(screen.getByText("Put a part into it"));
    const form = within(await screen.findByRole("form", { name: "A part in line 1" }));
    expect(form.queryByLabelText("Bore")).toBeNull();
    await userEvent.selectOptions(form.getByLabelText("What"), "restrictor");
    await userEvent.selectOptions(form.getByLabelText("Where"), "in place of bend 1");
    mutateAsync.mockRejectedValueOnce(
      new Refusal(422, "refused", [{ field: "act.bore_mm", message: "must be at most 30 mm" }]),
    );
    await userEvent.click(form.getByRole("button", { name: "Put it in" }));
    expect((await form.findByRole("alert")).textContent).toBe("Bore: must be at most 30 mm");
    await userEvent.click(form.getByRole("button", { name: "Put it in" }));
    expect(sent()).toEqual({
      kind: "put_in_line",
      run: "r1",
      part: "restrictor",
      at_bend: 1,
      bore_mm: "2 mm",
      worked: null,
      opens_bar: null,
    });
    expect(screen.queryByRole("form", { name: "A part in line 1" })).toBeNull();
  });

  it("drags a corner: drawn at once, sent when it is let go", () => {
    const page = served(STAGE);
    const corner = screen.getByRole("button", { name: "Move the bend 1, from above" });
    corner.setPointerCapture = vi.fn();
    const before = page.querySelector("[data-line='1'] path")?.getAttribute("d");
    fireEvent.pointerDown(corner, { clientX: 10, clientY: 10, pointerId: 1 });
    fireEvent.pointerMove(corner, { clientX: 200, clientY: 60, pointerId: 1 });
    expect(page.querySelector("[data-line='1'] path")?.getAttribute("d")).not.toBe(before);
    expect(mutateAsync).not.toHaveBeenCalled();
    fireEvent.pointerUp(corner, { clientX: 200, clientY: 60, pointerId: 1 });
    expect(sent()).toMatchObject({ kind: "lay_line", run: "r1" });
    mutateAsync.mockClear();
    fireEvent.pointerDown(corner, { clientX: 10, clientY: 10, pointerId: 1 });
    fireEvent.pointerCancel(corner, { pointerId: 1 });
    expect(mutateAsync).not.toHaveBeenCalled();
  });

  it("draws it as it screws together, with spanners and guessed threads", () => {
    const page = served(STAGE);
    const chain = page.querySelector("[data-chain='1']");
    expect(chain?.querySelectorAll("[data-fitting]")).toHaveLength(2);
    expect(chain?.textContent).toContain("thread guessed");
    expect(chain?.textContent).toContain("cut 424 mm of hose");
    expect(chain?.textContent).toContain("1 in");
  });

  it("changes size, ends and ports", async () => {
    served(STAGE);
    await userEvent.selectOptions(screen.getByLabelText("Size, dash"), "12");
    expect(sent()).toEqual({ kind: "lay_line", run: "r1", dash: 12 });
    await userEvent.click(screen.getByRole("checkbox", { name: "Heat sleeve" }));
    expect(sent()).toEqual({ kind: "lay_line", run: "r1", sleeve: true });
    const last = document.querySelector<HTMLElement>("[data-end='end']");
    if (!last) throw new Error("an end");
    await userEvent.selectOptions(within(last).getByLabelText("Hose end"), "45");
    expect(sent()).toEqual({ kind: "lay_line", run: "r1", end_deg: 45 });
    await userEvent.selectOptions(within(last).getByLabelText("It faces"), "up");
    expect(sent()).toEqual({ kind: "set_port", component: "c2", port: "inlet", faces: "up" });
    await userEvent.click(within(last).getByRole("button", { name: /where the line ends/ }));
    expect(sent()).toMatchObject({ kind: "set_port", at_mm: [400, -300, 120] });
  });

  it("keeps a figure that is refused where it was typed", async () => {
    served(STAGE);
    mutateAsync.mockRejectedValueOnce(new Error("must be at most 2000 mm"));
    const field = screen.getByLabelText("A clip every");
    await userEvent.clear(field);
    await userEvent.type(field, "9000{Enter}");
    expect(screen.getByRole("alert").textContent).toContain("at most 2000");
    expect((field as HTMLInputElement).value).toBe("9000");
  });

  it("has a bending sheet for a tube, or says why not", () => {
    const sheet = {
      pulls: [
        {
          straight_mm: 120,
          mark_mm: 123,
          roll_deg: 0,
          bend_deg: 90,
          pulled_deg: 92.7,
          radius_mm: 40,
        },
      ],
      last_mm: 200,
      developed_mm: 383,
      cut_mm: 389,
      stock_mm: 539,
    };
    const tube = lineOf(1, { kind: "hard_line", sheet });
    served({ ...STAGE, lines: { ...STAGE.lines, lines: [tube] } });
    const told = screen.getByRole("region", { name: "Bending sheet" }).textContent;
    expect(told).toContain("Cut 389 mm");
    expect(told).toContain("92.7°");
    const bare = lineOf(1, { kind: "hard_line", no_sheet: "It is not laid." });
    served({ ...STAGE, lines: { ...STAGE.lines, lines: [bare] } });
    expect(screen.getByText("It is not laid.")).toBeTruthy();
  });

  it("takes another chain, and says where a part must be made", async () => {
    const chain = endOf("a").chain;
    if (!chain) throw new Error("a chain");
    const other = {
      ...chain,
      fittings: chain.fittings.map((part) => ({ ...part, key: "elbow_10", words: "elbow" })),
    };
    const line = lineOf(1, {
      ends: [endOf("plate", { others: [other] }), endOf("tank", { chain: null })],
    });
    served({ ...STAGE, lines: { ...STAGE.lines, lines: [line] } });
    await userEvent.click(screen.getByRole("button", { name: "take it" }));
    expect(sent()).toEqual({ kind: "lay_line", run: "r1", start_fittings: ["elbow_10"] });
    expect(screen.getByText(/needs a made part/)).toBeTruthy();
  });
});

describe("the order", () => {
  async function opened(): Promise<void> {
    served(STAGE);
    await userEvent.click(screen.getByRole("button", { name: "The order" }));
  }

  it("tells parts, sums and how far each is", async () => {
    await opened();
    const row = document.querySelector("[data-order=hose_10]")?.textContent;
    expect(row).toContain("line 1, 2; length guessed");
    expect(row).toContain("29*");
    expect(row).toContain("0.8 ordered, 0.3 more");
    expect(document.querySelector("[data-total]")?.textContent).toBe("46");
    expect(document.querySelector("[data-begin]")?.textContent).toContain("3 December");
    expect(screen.getByText(/2 union, size 10 \(have\)/)).toBeTruthy();
  });

  it("is ticked, and unticked", async () => {
    await opened();
    await userEvent.selectOptions(screen.getByLabelText("How far: tee"), "arrived");
    expect(tick).toHaveBeenCalledWith({ part: "tee", state: "arrived" });
    await userEvent.selectOptions(screen.getByLabelText("How far: hose, size 10"), "to_order");
    expect(tick).toHaveBeenCalledWith({ part: "hose_10", state: null });
  });
});
