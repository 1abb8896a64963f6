// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as queries from "../api/queries";
import { DUNLIN } from "../testing/documents";
import { keptOf } from "../testing/kept";
import { showInBuild, viewOf } from "../testing/view";
import { GaugeReadings } from "./GaugeReadings";
import * as records from "./useRecords";

function gauge() {
  const kept = keptOf("gauge", []);
  vi.spyOn(records, "useKept").mockReturnValue(kept as never);
  vi.spyOn(queries, "useCircuit").mockReturnValue({ data: undefined } as never);
  showInBuild(<GaugeReadings />, viewOf());
  return kept;
}
const add = (): HTMLElement => screen.getByRole("button", { name: "Add the reading" });

afterEach(() => vi.restoreAllMocks());

describe("a gauge's reading", () => {
  it("is kept as typed once it has both figures, and none is put in for it", async () => {
    const { keep } = gauge();
    expect(add()).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByLabelText("Engine speed"), "2800");
    expect(add()).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByLabelText("Gallery pressure"), "45 psi");
    await userEvent.click(add());
    expect(keep).toHaveBeenCalledExactlyOnceWith({
      kind: "gauge",
      engine_rpm: "2800",
      pressure_bar: "45 psi",
      oil_temperature_c: DUNLIN.oil.temperature_c,
    });
    expect(screen.getByLabelText("Engine speed")).toHaveProperty("value", "");
  });

  it("stays as typed where it is refused, with the reason", async () => {
    const { keep } = gauge();
    keep.mockRejectedValueOnce(new Error("pressure: between 0 and 20 bar"));
    await userEvent.type(screen.getByLabelText("Engine speed"), "2800");
    await userEvent.type(screen.getByLabelText("Gallery pressure"), "45{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("between 0 and 20 bar");
    expect(screen.getByLabelText("Gallery pressure")).toHaveProperty("value", "45");
    expect(add()).toHaveProperty("disabled", false);
  });
});
