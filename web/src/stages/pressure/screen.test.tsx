// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as api from "../../api/pressure";
import { CommandProvider } from "../../parts/commands";
import { STAGE } from "../../testing/pressure";
import { showInBuild } from "../../testing/view";
import { PressureScreen } from "./PressureScreen";

const none = { data: undefined, error: null, isFetching: false };
const refetch = vi.fn();

function served(answer: object): HTMLElement {
  vi.spyOn(api, "usePressure").mockReturnValue({ ...none, refetch, ...answer } as never);
  vi.spyOn(api, "useTrial").mockReturnValue(none as never);
  vi.spyOn(api, "useBottleMap").mockReturnValue(none as never);
  return showInBuild(
    <QueryClientProvider
      client={new QueryClient({ defaultOptions: { queries: { enabled: false } } })}
    >
      <CommandProvider>
        <PressureScreen />
      </CommandProvider>
    </QueryClientProvider>,
  ).container;
}

afterEach(() => {
  vi.restoreAllMocks();
});

describe("the Pressure screen", () => {
  const basis = (page: HTMLElement): Element | null => page.querySelector("[data-basis]");
  it("says that the circuit is being read, or why it cannot be", async () => {
    expect(served({}).textContent).toContain("Reading the circuit…");
    const page = served({ error: new Error("circuit.runs: must lead oil to a gallery") });
    expect(page.textContent).toContain("must lead oil to a gallery");
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(refetch).toHaveBeenCalled();
  });
  it("says what its figures rest on", () => {
    const page = served({ data: STAGE, isPlaceholderData: false });
    expect(basis(page)?.getAttribute("data-basis")).toBe("own");
    expect(page.textContent).toContain("Its own run in moving oil.");
  });
  it("never shows the state before as the one that stands", async () => {
    const sound = { ...STAGE, pressure: { ...STAGE.pressure, dips: [] } };
    const page = served({ data: sound, isPlaceholderData: true });
    expect(basis(page)?.getAttribute("data-basis")).toBe("before");
    expect(page.textContent).toContain("As it was before this change");
    expect(page.textContent).not.toContain("Its own run");
    await userEvent.click(screen.getByRole("tab", { name: "Dips" }));
    expect(page.textContent).toContain("none so far");
    expect(page.textContent).not.toContain("the gallery holds");
  });
  it("shows the last that could be run beside what is refused now", () => {
    const page = served({ data: STAGE, error: new Error("circuit.runs: open") });
    expect(page.textContent).toContain("This is the last circuit that could be run");
  });
});
