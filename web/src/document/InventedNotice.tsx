import type { ReactElement } from "react";
import { Notice } from "../parts/Notice";

/** Said until anything of it is measured: the numbers are nobody's. */
export function InventedNotice({ what }: { what: "car" | "pan" }): ReactElement {
  return (
    <div className="max-w-2xl py-2">
      <Notice kind="caution" title={`This ${what}'s numbers are a template's, invented`}>
        {what === "car"
          ? "Put in how your own engine sits; the verdict is not yours before that."
          : "Measure your own pan with tape and jug, and put the figures in under Numbers, or drag an edge or a floor of the drawing."}
      </Notice>
    </div>
  );
}
