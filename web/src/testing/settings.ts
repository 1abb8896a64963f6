import type { Settings } from "../parts/settings";

const unit = (scale: number, label: string, decimals: number) => ({
  scale,
  offset: 0,
  label,
  decimals,
});

/** Settings as the signed-in frame gives them, in millimetres and litres. */
export const SETTINGS: Settings = {
  system: "metric",
  setSystem: () => undefined,
  units: [
    { suffix: "_mm", metric: unit(1, "mm", 0), us: unit(1 / 25.4, "in", 2) },
    { suffix: "_l", metric: unit(1, "L", 1), us: unit(1 / 0.946352946, "qt", 1) },
    { suffix: "_deg", metric: unit(1, "deg", 1), us: unit(1, "deg", 1) },
    { suffix: "_kelvin", metric: unit(1, "K", 0), us: unit(1.8, "°F", 0) },
    { suffix: "_m_s", metric: unit(1, "m/s", 1), us: unit(1 / 0.3048, "ft/s", 1) },
    { suffix: "_bar", metric: unit(1, "bar", 1), us: unit(14.5037738, "psi", 0) },
    { suffix: "_mbar", metric: unit(1, "mbar", 1), us: unit(0.401474, "inH2O", 1) },
    { suffix: "_c", metric: unit(1, "°C", 0), us: { ...unit(1.8, "°F", 0), offset: 32 } },
  ],
  grades: ["10W-60"],
  inspectionItems: ["Cracks along the rail"],
  largestUploadMb: 64,
  limits: { drawsAir: 0.05, runsDry: 0.5, splashL: 0.02, dipShare: 0.6, mouthGap: "6.4 to 9.5 mm" },
  theme: "paper",
  setTheme: () => undefined,
};
