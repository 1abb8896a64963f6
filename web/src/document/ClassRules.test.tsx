// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { show } from "../testing/shown";
import { ClassRules } from "./ClassRules";

describe("class rules", () => {
  it("are said kind by kind, and taken back", async () => {
    const onRule = vi.fn();
    show(<ClassRules rules={{ fit_cooler: "not_allowed", spacer: null }} onRule={onRule} />);
    expect(screen.getByText("1 of 26 said")).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("Accumulator"), "allowed");
    expect(onRule).toHaveBeenLastCalledWith("fit_accumulator", "allowed");
    await userEvent.selectOptions(screen.getByLabelText("Oil cooler"), "unsaid");
    expect(onRule).toHaveBeenLastCalledWith("fit_cooler", null);
  });
  it("say that nothing is said yet", () => {
    show(<ClassRules rules={undefined} onRule={vi.fn()} />);
    expect(screen.getByText("Nothing said yet")).toBeTruthy();
  });
});
