import { lengthAs, type System, type Units } from "../parts/units";
import { fromMouth, type Drawing } from "./views";

const looks = { side: "from the engine's left", front: "looking to the nose" } as const;

/** What a section is called: where it is cut, and from where it is seen. */
export function sectionTitle(
  drawing: Drawing,
  view: "side" | "front",
  system: System,
  units: Units,
): [string, string] {
  const off = fromMouth(drawing, view);
  if (Math.abs(off) < 0.5)
    return [view === "side" ? "Section on the mouth" : "Section at the mouth", looks[view]];
  const { figure, unit } = lengthAs(units, system, Math.abs(off));
  const way =
    view === "side" ? (off > 0 ? "left of" : "right of") : off > 0 ? "to the nose from" : "behind";
  return [`Section ${figure} ${unit} ${way} the mouth`, looks[view]];
}
