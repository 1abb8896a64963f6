// @vitest-environment jsdom
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { READING, UNDERSTOOD } from "../../testing/logs";
import { show } from "../../testing/shown";
import { Columns } from "./Columns";
import { SensorFrame } from "./SensorFrame";

function columns(understood = UNDERSTOOD, reading = READING) {
  const onChange = vi.fn();
  show(<Columns {...{ understood, reading, onChange }} />);
  return onChange;
}

describe("Columns", () => {
  it("offers each channel's columns, units and signs", async () => {
    const onChange = columns();
    await userEvent.selectOptions(screen.getByLabelText("Unit of speed"), "mph");
    expect(onChange).toHaveBeenLastCalledWith({
      ...READING,
      columns: { ...READING.columns, speed: { heading: "v", unit: "mph" } },
    });
    await userEvent.selectOptions(screen.getByLabelText("Positive lateral g means"), "right");
    expect(onChange.mock.lastCall?.[0]).toMatchObject({
      columns: { lateral: { positive: "right" } },
    });
    expect(screen.queryByLabelText("Positive speed means")).toBeNull();
  });

  it("lets time come from the rows a second", async () => {
    const onChange = columns();
    await userEvent.selectOptions(screen.getByLabelText("What tells the time"), "rate");
    const byRate = onChange.mock.lastCall?.[0] as typeof READING;
    expect(byRate.sample_rate_hz).toBe(50);
    expect(byRate.columns.time).toBeUndefined();
  });

  it("takes a typed rate once it is one", async () => {
    const byRate = { ...READING, sample_rate_hz: 50 };
    const others = Object.entries(READING.columns).filter(([name]) => name !== "time");
    const onChange = columns(UNDERSTOOD, { ...byRate, columns: Object.fromEntries(others) });
    const field = screen.getByLabelText("Rows a second");
    await userEvent.clear(field);
    await userEvent.type(field, "lots{Enter}");
    expect(onChange).not.toHaveBeenCalled();
    await userEvent.clear(field);
    await userEvent.type(field, "12,5{Enter}");
    expect(onChange.mock.lastCall?.[0]).toMatchObject({ sample_rate_hz: 12.5 });
  });

  it("folds extras away, and adds one that is chosen", async () => {
    const onChange = columns();
    expect(screen.getByText(/Use more of the file/)).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("Column of vertical g"), "az");
    expect(onChange.mock.lastCall?.[0]).toMatchObject({
      columns: { vertical: { heading: "az", unit: "" } },
    });
  });

  it("says a fault beside its channel", () => {
    columns({
      ...UNDERSTOOD,
      faults: [{ field: "channels.speed.unit", message: "the unit is not said" }],
    });
    expect(screen.getByRole("alert").textContent).toContain("the unit is not said");
  });
});

describe("SensorFrame", () => {
  it("says that it is square and level until it is not", async () => {
    const onChange = vi.fn();
    show(<SensorFrame reading={READING} fault={undefined} onChange={onChange} />);
    expect(screen.getByText(/square, level, at the engine/)).toBeTruthy();
    const turned = screen.getByLabelText(/Turned to the left by/);
    await userEvent.clear(turned);
    await userEvent.type(turned, "−90{Enter}");
    expect(onChange.mock.lastCall?.[0]).toMatchObject({ sensor: { turned_left_deg: -90 } });
    await userEvent.click(screen.getByLabelText(/take its tilt out/));
    expect(onChange.mock.lastCall?.[0]).toMatchObject({ sensor: { level_standing: true } });
  });
  it("opens with what is wrong", () => {
    show(<SensorFrame reading={READING} fault="yaw rate is missing" onChange={vi.fn()} />);
    expect(screen.getByRole("alert").textContent).toBe("yaw rate is missing");
  });
});
