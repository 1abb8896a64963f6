import { cleanup, render, type RenderResult } from "@testing-library/react";
import type { ReactElement } from "react";
import { afterEach, vi } from "vitest";
import { SettingsContext, type Settings } from "../parts/settings";

// not in jsdom: the browser's own dialog, and watching sizes
HTMLDialogElement.prototype.showModal = function showModal() {
  this.open = true;
};
HTMLDialogElement.prototype.close = function close() {
  this.open = false;
};
Element.prototype.scrollIntoView = () => undefined;
vi.stubGlobal(
  "ResizeObserver",
  class {
    observe = (): void => undefined;
    disconnect = (): void => undefined;
  },
);
afterEach(cleanup);

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
  ],
  grades: ["10W-60"],
  inspectionItems: ["Cracks along the rail"],
  largestUploadMb: 64,
  theme: "paper",
  setTheme: () => undefined,
};

/** A part of a screen on the page, inside the settings it may need. */
export function show(part: ReactElement, settings: Settings = SETTINGS): RenderResult {
  const around = (inner: ReactElement): ReactElement => (
    <SettingsContext value={settings}>{inner}</SettingsContext>
  );
  const shown = render(around(part));
  return { ...shown, rerender: (next) => shown.rerender(around(next as ReactElement)) };
}
