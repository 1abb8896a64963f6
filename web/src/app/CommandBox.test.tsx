// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactElement } from "react";
import { describe, expect, it, vi } from "vitest";
import { CommandProvider, useCommands, type Command } from "../parts/commands";
import { show } from "../testing/shown";
import { CommandBox } from "./CommandBox";
import { KeySheet } from "./KeySheet";

function Screen({ commands, children }: { commands: Command[]; children: ReactElement }) {
  useCommands("screen", commands);
  return children;
}

function open() {
  const run = vi.fn<(id: string) => void>();
  const onFigure = vi.fn();
  const onClose = vi.fn();
  const commands: Command[] = [
    { id: "next", group: "Lap", words: "Next dip", key: ".", run: () => run("next") },
    { id: "night", group: "Frame", words: "Night theme", key: "n", run: () => run("night") },
  ];
  show(
    <CommandProvider>
      <Screen commands={commands}>
        <CommandBox figures={{ oil: "oil.volume_l" }} onFigure={onFigure} onClose={onClose} />
      </Screen>
    </CommandProvider>,
  );
  return { run, onFigure, onClose, box: screen.getByRole("combobox") };
}

describe("CommandBox", () => {
  it("has the focus, and finds by typing", async () => {
    const { box, run, onClose } = open();
    expect(document.activeElement).toBe(box);
    await userEvent.type(box, "night{Enter}");
    expect(run).toHaveBeenCalledExactlyOnceWith("night");
    expect(onClose).toHaveBeenCalledOnce();
  });
  it("is walked with the arrow keys, and says which is chosen", async () => {
    const { box, run } = open();
    await userEvent.type(box, "{ArrowDown}{ArrowDown}{ArrowUp}{ArrowDown}");
    const chosen = screen.getByRole("option", { selected: true });
    expect(chosen.textContent).toContain("Night theme");
    expect(box.getAttribute("aria-activedescendant")).toBe(chosen.id);
    await userEvent.type(box, "{Enter}");
    expect(run).toHaveBeenCalledWith("night");
  });
  it("takes a figure with its name", async () => {
    const { box, onFigure, run } = open();
    await userEvent.type(box, "oil 7 qt");
    expect(screen.getByRole("option").textContent).toBe("Set oil to 7 qt");
    await userEvent.type(box, "{Enter}");
    expect(onFigure).toHaveBeenCalledExactlyOnceWith("oil.volume_l", "7 qt");
    expect(run).not.toHaveBeenCalled();
  });
  it("says what can be typed when nothing fits", async () => {
    const { box, onClose } = open();
    await userEvent.type(box, "warp drive{Enter}");
    expect(screen.getByText(/Nothing here goes by that/)).toBeDefined();
    expect(onClose).not.toHaveBeenCalled();
  });
});

describe("KeySheet", () => {
  it("lists the keys of what is on the screen", () => {
    const commands: Command[] = [
      { id: "next", group: "Lap", words: "Next dip", key: ".", run: () => undefined },
      { id: "plain", group: "Lap", words: "Without a key", run: () => undefined },
    ];
    show(
      <CommandProvider>
        <Screen commands={commands}>
          <KeySheet onClose={() => undefined} />
        </Screen>
      </CommandProvider>,
    );
    expect(screen.getByText("Next dip")).toBeDefined();
    expect(screen.queryByText("Without a key")).toBeNull();
  });
});
