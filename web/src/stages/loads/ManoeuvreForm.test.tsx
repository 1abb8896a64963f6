// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../../api/client";
import { show } from "../../testing/shown";
import { faultWords, ManoeuvreForm } from "./ManoeuvreForm";

const calls = vi.hoisted(() => ({ keep: vi.fn(), trace: vi.fn() }));
vi.mock("../../api/logs", () => ({
  useKeepManoeuvre: () => ({ mutate: calls.keep, error: null, isPending: false }),
  useManoeuvreTrace: (parts: unknown) => {
    calls.trace(parts);
    return {
      data: { name: "Corner left", time_s: [0, 1, 2], side_g: [0, 1.2, 0], fore_g: [0, -0.4, 0] },
      error: null,
    };
  },
}));

beforeEach(() => vi.clearAllMocks());

describe("ManoeuvreForm", () => {
  it("keeps several in a row under one name", async () => {
    show(<ManoeuvreForm onKept={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "And then…" }));
    await userEvent.selectOptions(screen.getByLabelText("And then"), "braking");
    await userEvent.type(screen.getByLabelText("Called"), "into the hairpin");
    await userEvent.click(screen.getByRole("button", { name: "Judge by this load" }));
    expect(calls.keep.mock.lastCall?.[0]).toMatchObject({
      name: "into the hairpin",
      parts: [
        { kind: "corner", level_g: 1.2, hold_s: 4 },
        { kind: "braking", level_g: 1.2, hold_s: 4 },
      ],
    });
  });

  it("takes a figure by Enter, and keeps nothing that is half filled in", async () => {
    show(<ManoeuvreForm onKept={vi.fn()} />);
    await userEvent.clear(screen.getByLabelText(/^Load/));
    await userEvent.type(screen.getByLabelText(/^Load/), "1.9{Enter}");
    expect(calls.keep).not.toHaveBeenCalled();
    expect(calls.trace.mock.lastCall?.[0]).toMatchObject([{ level_g: 1.9 }]);
  });

  it("is drawn as it is typed, and a part can be left out again", async () => {
    show(<ManoeuvreForm onKept={vi.fn()} />);
    const path = document.querySelector("[data-thrown] path[stroke-width='2.5']");
    // a left turn throws the oil right, braking forward: up
    expect(path?.getAttribute("d")).toMatch(/^M120\.0 95\.0L1[6-9]\d\.\d [67]\d\.\d/);
    await userEvent.click(screen.getByRole("button", { name: "And then…" }));
    const [first] = screen.getAllByRole("button", { name: "leave out" });
    if (first) await userEvent.click(first);
    expect(calls.trace.mock.lastCall?.[0]).toHaveLength(1);
  });

  it("says which part is at fault", () => {
    const refused = new Refusal(422, "no", [
      { field: "parts.1.hold_s", message: "must be above 0" },
    ]);
    expect(faultWords(refused)).toBe("2. Held for: must be above 0");
  });
});
