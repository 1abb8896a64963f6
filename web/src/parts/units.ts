import type { Schemas } from "../api/client";

export type Units = Schemas["FieldUnitsOut"][];
export type System = "metric" | "us";

/** A stored figure as shown. The factors come from the server: they are kept in one place. */
export interface Shown {
  figure: string;
  unit: string;
}

/** The last part of a field's path that is not a place in a list: it names the unit. */
export function unitKey(field: string): string {
  const keys = field.split(".").filter((key) => !/^\d+$/.test(key));
  return keys[keys.length - 1] ?? "";
}

/** How a stored value of a field is shown in a unit system; null for a field that has no unit. */
export function shownAs(
  units: Units,
  field: string,
  system: System,
  value: number,
  extraDecimals = 0,
): Shown | null {
  const found = units.find((row) => unitKey(field).endsWith(row.suffix));
  if (!found) return null;
  const unit = found[system];
  const shown = unit.scale * value + unit.offset;
  return {
    figure: shown.toFixed(unit.decimals + extraDecimals),
    unit: unit.label.replace(/3$/, "³"), // cm3 and in3, as they are typed
  };
}

/** What one stored unit of a field is in the units shown. */
export function scaleOf(units: Units, field: string, system: System): number {
  return units.find((row) => unitKey(field).endsWith(row.suffix))?.[system].scale ?? 1;
}

/** A figure in the units shown, as it is stored; of a field without a unit, as it is. */
export function storedFrom(units: Units, field: string, system: System, shown: number): number {
  const unit = units.find((row) => unitKey(field).endsWith(row.suffix))?.[system];
  return unit ? (shown - unit.offset) / unit.scale : shown;
}

/** The same without a stored field: a length in mm, a volume in litres. */
export function lengthAs(units: Units, system: System, mm: number): Shown {
  return shownAs(units, "x_mm", system, mm) ?? { figure: mm.toFixed(0), unit: "mm" };
}

export function volumeAs(units: Units, system: System, litres: number, extraDecimals = 0): Shown {
  return (
    shownAs(units, "x_l", system, litres, extraDecimals) ?? {
      figure: litres.toFixed(1 + extraDecimals),
      unit: "L",
    }
  );
}

export function pressureAs(units: Units, system: System, bar: number): Shown {
  return shownAs(units, "x_bar", system, bar) ?? { figure: bar.toFixed(1), unit: "bar" };
}

/** What gas in a crankcase has over the air. */
export function gasPressureAs(units: Units, system: System, millibar: number): Shown {
  return (
    shownAs(units, "x_mbar", system, millibar) ?? { figure: millibar.toFixed(1), unit: "mbar" }
  );
}

export function flowAs(
  units: Units,
  system: System,
  litresAMinute: number,
  extraDecimals = 0,
): Shown {
  return (
    shownAs(units, "x_l_min", system, litresAMinute, extraDecimals) ?? {
      figure: litresAMinute.toFixed(1 + extraDecimals),
      unit: "L/min",
    }
  );
}

const GAS_IN_WHOLE_FROM = 10; // of the unit shown: a flow of gas is not known to a tenth of that

export function gasFlowAs(units: Units, system: System, litresAMinute: number): Shown {
  const shown = flowAs(units, system, litresAMinute);
  return Math.abs(Number(shown.figure)) < GAS_IN_WHOLE_FROM
    ? shown
    : flowAs(units, system, litresAMinute, -1);
}

export function temperatureWords(units: Units, system: System, celsius: number): string {
  const shown = shownAs(units, "x_c", system, celsius);
  return shown ? `${shown.figure} ${shown.unit}` : `${celsius.toFixed(0)} °C`;
}

/** At which a bottle's pre-charge is told [°C]. */
export const PRECHARGED_AT_C = 20;

/** How fast oil goes in a line, or a belt runs. */
export function flowSpeedAs(units: Units, system: System, metresASecond: number): Shown {
  return (
    shownAs(units, "x_m_s", system, metresASecond) ?? {
      figure: metresASecond.toFixed(1),
      unit: "m/s",
    }
  );
}

/** What is an estimate is told without decimals. */
export function aboutFlow(units: Units, system: System, litresAMinute: number): string {
  const { figure, unit } = flowAs(units, system, litresAMinute, -1);
  return `about ${figure} ${unit}`;
}

export function powerAs(units: Units, system: System, kilowatts: number): Shown {
  return (
    shownAs(units, "x_power_kw", system, kilowatts) ?? { figure: kilowatts.toFixed(0), unit: "kW" }
  );
}

/** Shown with as many decimals as it takes not to misstate the stored value, at most two more. */
export function exactlyShown(units: Units, field: string, system: System, value: number): Shown {
  for (const extra of [0, 1, 2]) {
    const shown = shownAs(units, field, system, value, extra);
    if (!shown) return { figure: String(value), unit: "" };
    const finer = shownAs(units, field, system, value, extra + 1);
    if (extra === 2 || (finer && Number(shown.figure) === Number(finer.figure))) return shown;
  }
  return { figure: String(value), unit: "" };
}
