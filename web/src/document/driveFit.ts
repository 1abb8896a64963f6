import type { Fit } from "./circuit/fits";

/** What a belt drive's form shows first, as it would be typed; empty: not known. */
export type DriveFirst = Readonly<Record<string, string>>;

/** What a form begins with where nothing of the drive is known: to be typed over. */
export const UNKNOWN_DRIVE = {
  crank_teeth: 24,
  pump_teeth: 44,
  pitch_mm: 8,
  width_mm: 25,
  across_mm: -150,
  up_mm: -70,
  offset_mm: 0,
  travel_mm: 6,
} as const;

const AS_TYPED: DriveFirst = Object.fromEntries(
  Object.entries(UNKNOWN_DRIVE).map(([key, value]) => [
    key,
    key.endsWith("_mm") ? `${value} mm` : String(value),
  ]),
);

/** The form of a belt drive: where the pump stands from the crank, its pulleys, an idler. */
export function driveFit(first: DriveFirst = AS_TYPED): Fit {
  const asked = (key: string, label: string) => {
    const shown = first[key] ?? "";
    return { ask: "typed", key, label, first: { metric: shown, us: shown } } as const;
  };
  const maybe = (key: string, label: string) =>
    ({ ...asked(key, label), mayBeEmpty: true }) as const;
  const ofIdler = (key: string, label: string) =>
    ({ ...asked(key, label), only: ["idler", "back", "teeth"] }) as const;
  const idlers = [
    ["none", "none"],
    ["back", "on the belt's back, from outside"],
    ["teeth", "on its teeth, from inside"],
  ] as const;
  return {
    words: "Belt drive",
    note: "Measured from the crank's pulley, seen from ahead: left and up of its middle. All stages turn as the pulleys say. Without a number of teeth the nearest belt is taken.",
    caution:
      "A belt that is thrown stops the oil. Guard it, keep hands and hose out of its way, turn it over by hand first.",
    asked: [
      asked("crank_teeth", "Teeth on the crank"),
      asked("pump_teeth", "Teeth on the pump"),
      maybe("belt_teeth", "Teeth of the belt"),
      asked("pitch_mm", "From tooth to tooth"),
      asked("width_mm", "Belt's width"),
      asked("across_mm", "Pump, left of the crank"),
      asked("up_mm", "Pump, above the crank"),
      asked("offset_mm", "Its pulley ahead of the crank's"),
      asked("travel_mm", "It can be moved by"),
      {
        ask: "choice",
        key: "idler",
        label: "Idler",
        choices: [...idlers].sort(
          ([a], [b]) => Number(b === first["idler"]) - Number(a === first["idler"]),
        ),
      },
      ofIdler("idler_across_mm", "Idler, left of the crank"),
      ofIdler("idler_up_mm", "Idler, above the crank"),
      ofIdler("idler_diameter_mm", "Idler, across"),
      maybe("crank_x_mm", "Crank's pulley ahead of the rail's rear"),
      maybe("body_length_mm", "Pump's body, long"),
      maybe("body_diameter_mm", "Pump's body, across"),
    ],
  };
}
