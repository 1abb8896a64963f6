import type { ReactElement } from "react";
import { cutRange, fromMouth, type CutAt, type Drawing } from "../../drawing/views";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";

type View = keyof CutAt;

const NAMES: Record<View, [string, string, string]> = {
  side: ["Cut along the engine", "left", "right"],
  front: ["Cut across the engine", "to the nose", "back"],
};

/** A slider for each section: where it is cut, as measured from the mouth. */
export function CutPlaces({
  drawing,
  views,
  cut,
  onCut,
}: {
  drawing: Drawing;
  views: readonly View[];
  cut: CutAt;
  onCut: (cut: CutAt) => void;
}): ReactElement {
  const { system, units } = useSettings();
  return (
    <>
      {views.map((view) => {
        const [name, ahead, back] = NAMES[view];
        const [low, high] = cutRange(drawing, view);
        const off = fromMouth(drawing, view);
        const mouth = drawing[view].at_mm - off;
        const at = cut[view] ?? mouth;
        const { figure, unit } = lengthAs(units, system, Math.abs(at - mouth));
        const words =
          Math.abs(at - mouth) < 0.5
            ? "at the mouth"
            : `${figure} ${unit} ${at > mouth ? ahead : back}`;
        return (
          <label key={view} className="flex items-center gap-1.5 whitespace-nowrap">
            <span className={views.length > 1 ? "text-ink-2" : "sr-only"}>
              {views.length > 1 ? (view === "side" ? "along" : "across") : name}
            </span>
            <input
              type="range"
              min={low}
              max={high}
              step={1}
              value={Math.round(at)}
              aria-label={name}
              aria-valuetext={words}
              onChange={(event) => onCut({ ...cut, [view]: Number(event.target.value) })}
              className="w-24 accent-ink"
            />
            <button
              type="button"
              title="back to the mouth"
              disabled={cut[view] === null}
              onClick={() => onCut({ ...cut, [view]: null })}
              className="min-w-[72px] text-left enabled:underline"
            >
              {words}
            </button>
          </label>
        );
      })}
    </>
  );
}
