export type Theme = "paper" | "night";

const KEY = "bilge-theme";
const SYSTEM_KEY = "bilge-units";

export function storedTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "paper" || kept === "night") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "night" : "paper";
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  localStorage.setItem(KEY, theme);
}

export const storedSystem = (): "metric" | "us" =>
  localStorage.getItem(SYSTEM_KEY) === "us" ? "us" : "metric";

export const keepSystem = (system: "metric" | "us"): void =>
  localStorage.setItem(SYSTEM_KEY, system);
