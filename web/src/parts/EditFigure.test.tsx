// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Refusal } from "../api/client";
import { SETTINGS } from "../testing/settings";
import { show } from "../testing/shown";
import { EditFigure } from "./EditFigure";

const figure = (value: number, onType: (typed: string) => Promise<unknown>) => (
  <EditFigure label="Gap" field="pickup.gap_mm" value={value} onType={onType} />
);
const field = (): HTMLInputElement => screen.getByLabelText("Gap");

describe("EditFigure", () => {
  it("sends what was typed, unit and all, and shows what was stored", async () => {
    const onType = vi.fn(() => Promise.resolve());
    const shown = show(figure(8, onType));
    await userEvent.clear(field());
    await userEvent.type(field(), "3/8 in{Enter}");
    expect(onType).toHaveBeenCalledExactlyOnceWith("3/8 in");
    shown.rerender(figure(9.525, onType));
    expect(field().value).toBe("9.53");
  });
  it("keeps a refused figure in the field, with what would be right beside it", async () => {
    const refusal = new Refusal(422, "Refused.", [
      { field: "pickup.gap_mm", message: "cannot be read" },
    ]);
    show(figure(8, () => Promise.reject(refusal)));
    await userEvent.clear(field());
    await userEvent.type(field(), "deep{Enter}");
    expect((await screen.findByRole("alert")).textContent).toBe("cannot be read");
    expect(field().value).toBe("deep");
    expect(field().getAttribute("aria-invalid")).toBe("true");
    await userEvent.type(field(), "{Escape}");
    expect(field().value).toBe("8");
  });
  it("is nudged by the arrow keys and sends nothing until it is accepted", async () => {
    const onType = vi.fn(() => Promise.resolve());
    show(figure(8, onType));
    await userEvent.type(field(), "{ArrowUp}{ArrowUp}{ArrowDown}");
    expect(field().value).toBe("9");
    expect(onType).not.toHaveBeenCalled();
    await userEvent.type(field(), "{Enter}");
    expect(onType).toHaveBeenCalledExactlyOnceWith("9");
  });
  it("sends nothing for the figure that stands there already", async () => {
    const onType = vi.fn(() => Promise.resolve());
    show(figure(8, onType));
    await userEvent.type(field(), "{Enter}");
    await userEvent.clear(field());
    await userEvent.tab();
    expect(onType).not.toHaveBeenCalled();
    expect(field().value).toBe("8");
  });
  it("shows inches where inches are in use", () => {
    show(
      figure(9.525, () => Promise.resolve()),
      { ...SETTINGS, system: "us" },
    );
    expect(field().value).toBe("0.375");
    expect(screen.getByText("in")).toBeDefined();
  });
});
