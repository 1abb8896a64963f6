// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Edit } from "../api/queries";
import { showInBuild, viewOf } from "../testing/view";
import { EditNotices } from "./EditNotices";

const FIGURES: Edit = {
  kind: "act",
  act: { kind: "figures", figures: [{ field: "pan.zones.z4.name", value: "sump" }] },
  system: "metric",
};

describe("EditNotices", () => {
  it("says nothing of an edit that was simply saved", () => {
    showInBuild(<EditNotices conflict={null} joined={null} onSettled={vi.fn()} />);
    expect(screen.queryByRole("note")).toBeNull();
  });

  it("says what an edit was laid on, until it is closed", async () => {
    const onSettled = vi.fn();
    const words = "Meanwhile, by others: P1 added (robin). Yours is on top.";
    showInBuild(<EditNotices conflict={null} joined={words} onSettled={onSettled} />);
    expect(screen.getByRole("note").textContent).toContain(words);
    await userEvent.click(screen.getByRole("button", { name: "Close" }));
    expect(onSettled).toHaveBeenCalledOnce();
  });

  it("puts figures on top of theirs by the ids they were typed for", async () => {
    const view = viewOf();
    const conflict = {
      words: "robin changed this build.",
      keptState: 5,
      edit: FIGURES,
    };
    showInBuild(<EditNotices conflict={conflict} joined={null} onSettled={vi.fn()} />, view);
    await userEvent.click(screen.getByRole("button", { name: "Put mine on top of theirs" }));
    expect(view.edit.mutate).toHaveBeenCalledExactlyOnceWith(conflict.edit);
  });

  it("shows the state that was kept aside", async () => {
    const view = viewOf();
    const conflict = {
      words: "robin changed this build.",
      keptState: 5,
      edit: { kind: "undo" } as const,
    };
    showInBuild(<EditNotices conflict={conflict} joined={null} onSettled={vi.fn()} />, view);
    expect(screen.queryByRole("button", { name: "Put mine on top of theirs" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Show mine instead" }));
    expect(view.edit.mutate).toHaveBeenCalledExactlyOnceWith({ kind: "show", state: 5 });
  });
});
