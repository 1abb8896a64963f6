import { render, type RenderResult } from "@testing-library/react";
import type { ReactElement } from "react";
import { SettingsContext, type Settings } from "../parts/settings";
import { SETTINGS } from "./settings";

/** The words of a part of the page, its spaces as one types them. */
export const wordsIn = (part: Element | null | undefined): string =>
  (part?.textContent ?? "").replace(/\u00a0/g, " ");

/** A part of a screen on the page, inside the settings it may need. */
export function show(part: ReactElement, settings: Settings = SETTINGS): RenderResult {
  const around = (inner: ReactElement): ReactElement => (
    <SettingsContext value={settings}>{inner}</SettingsContext>
  );
  const shown = render(around(part));
  return { ...shown, rerender: (next) => shown.rerender(around(next as ReactElement)) };
}
