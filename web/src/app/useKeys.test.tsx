// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import type { ReactElement } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { CommandProvider, useCommands, type Command } from "../parts/commands";
import { show } from "../testing/shown";
import { useKeys } from "./useKeys";

const [next, undo, play, tip] = [vi.fn(), vi.fn(), vi.fn(), vi.fn()];
const COMMANDS: Command[] = [
  { id: "next", group: "Lap", words: "Next dip", key: ".", run: next },
  { id: "undo", group: "Edit", words: "Undo", key: "ctrl+z", inFields: true, run: undo },
  { id: "play", group: "Lap", words: "Play", key: "space", run: play },
  { id: "tip", group: "Load", words: "Tip", key: "ArrowLeft", run: tip },
];

function Page({ closed }: { closed: boolean }): ReactElement {
  useCommands("page", COMMANDS);
  useKeys(closed);
  return (
    <>
      <input aria-label="typed" />
      <input aria-label="untouched" data-untouched />
      <button type="button">press</button>
      <div role="tablist">
        <span data-testid="tab" />
      </div>
    </>
  );
}

function page(closed = true): void {
  show(
    <CommandProvider>
      <Page closed={closed} />
    </CommandProvider>,
  );
}
const field = (name: string): HTMLElement => screen.getByLabelText(name);

beforeEach(() => vi.clearAllMocks());

describe("keys", () => {
  it("do what their command does, and the browser does not", () => {
    page();
    expect(fireEvent.keyDown(document.body, { key: "." })).toBe(false);
    expect(next).toHaveBeenCalledOnce();
    expect(fireEvent.keyDown(document.body, { key: "q" })).toBe(true);
  });

  it("are the browser's with alt, and another's that has taken them", () => {
    page();
    fireEvent.keyDown(document.body, { key: ".", altKey: true });
    const taken = new KeyboardEvent("keydown", { key: ".", bubbles: true, cancelable: true });
    taken.preventDefault();
    document.body.dispatchEvent(taken);
    expect(next).not.toHaveBeenCalled();
  });

  it("belong to a field that is typed in, but for undo where nothing was typed", () => {
    page();
    fireEvent.keyDown(field("typed"), { key: "." });
    fireEvent.keyDown(field("typed"), { key: "z", ctrlKey: true });
    fireEvent.keyDown(field("untouched"), { key: "." });
    expect(next).not.toHaveBeenCalled();
    expect(undo).not.toHaveBeenCalled();
    fireEvent.keyDown(field("untouched"), { key: "z", ctrlKey: true });
    expect(undo).toHaveBeenCalledOnce();
  });

  it("leave space to a button and arrows to tabs", () => {
    page();
    fireEvent.keyDown(screen.getByText("press"), { key: " " });
    fireEvent.keyDown(screen.getByTestId("tab"), { key: "ArrowLeft" });
    expect(play).not.toHaveBeenCalled();
    expect(tip).not.toHaveBeenCalled();
    fireEvent.keyDown(document.body, { key: " " });
    fireEvent.keyDown(document.body, { key: "ArrowLeft" });
    expect(play).toHaveBeenCalledOnce();
    expect(tip).toHaveBeenCalledOnce();
  });

  it("do nothing while a box lies over the screen", () => {
    page(false);
    fireEvent.keyDown(document.body, { key: "." });
    expect(next).not.toHaveBeenCalled();
  });
});
