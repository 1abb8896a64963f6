// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../../testing/shown";
import { PadFigures } from "./PadFigures";

function figures(onLoad = vi.fn(), foreG = 0) {
  show(
    <PadFigures
      load={{ sideG: 0.5, foreG }}
      rim={1.6}
      steady
      hasLap
      onLoad={onLoad}
      onBack={() => undefined}
    />,
  );
  return onLoad;
}

async function type(label: RegExp, text: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
}

describe("PadFigures", () => {
  it("takes a load as it is written", async () => {
    const onLoad = figures();
    await type(/side/, "-1,2 g");
    expect(onLoad).toHaveBeenLastCalledWith({ sideG: -1.2, foreG: 0 });
    await type(/fore/, "−0.4");
    expect(onLoad).toHaveBeenLastCalledWith({ sideG: 0.5, foreG: -0.4 });
  });
  it("shows a load that is next to nil without a sign", () => {
    figures(vi.fn(), -0.001);
    expect(screen.getByLabelText<HTMLInputElement>(/fore/).value).toBe("0.00");
  });
  it("holds it to the pad's rim", async () => {
    const onLoad = figures();
    await type(/side/, "4");
    expect(onLoad).toHaveBeenLastCalledWith({ sideG: 1.6, foreG: 0 });
  });
  it("marks what is no figure, and sends nothing", async () => {
    const onLoad = figures();
    await type(/side/, "fast");
    expect(screen.getByLabelText(/side/).getAttribute("aria-invalid")).toBe("true");
    expect(onLoad).not.toHaveBeenCalled();
  });
});
