import type { ReactElement } from "react";

/** Beside what is a template's still: nobody measured it. */
export const NotYours = (): ReactElement => (
  <span className="ml-2 border border-dashed border-ink-2 px-1 text-[12px] text-ink-2">
    not yours yet
  </span>
);
