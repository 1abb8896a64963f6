// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { Choice } from "./Choice";

describe("Choice", () => {
  it("offers every kind by its words and gives the kind that is chosen", async () => {
    const onChoose = vi.fn();
    const choices = { rubber: "rubber: seals, ages", metal: "metal: lasts, leaks more" };
    show(<Choice label="Leaf" value="rubber" choices={choices} onChoose={onChoose} />);
    const leaf = screen.getByLabelText<HTMLSelectElement>("Leaf");
    expect(leaf.value).toBe("rubber");
    expect([...leaf.options].map(({ text }) => text)).toEqual(Object.values(choices));
    await userEvent.selectOptions(leaf, "metal");
    expect(onChoose).toHaveBeenCalledExactlyOnceWith("metal");
  });
});
