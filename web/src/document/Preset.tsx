import { useState, type ReactElement } from "react";
import type { Act } from "../api/queries";
import { Button } from "../parts/Button";
import { useSettings } from "../parts/settings";

const PLACES = [
  ["front", "in front"],
  ["middle", "in the middle"],
  ["rear", "at the rear"],
] as const;

/** The pan begun anew on the same rail, its sump in front, in the middle or at the rear. */
export function Preset({ onAct }: { onAct: (act: Act) => void }): ReactElement {
  const { system } = useSettings();
  const metric = system === "metric";
  const [depth, setDepth] = useState(metric ? "150 mm" : "6 in");
  const [shelf, setShelf] = useState(metric ? "50 mm" : "2 in");
  const field = (label: string, value: string, set: (text: string) => void): ReactElement => (
    <label className="flex items-center gap-2">
      {label}
      <input
        value={value}
        onChange={(event) => set(event.target.value)}
        className="h-8 w-20 border border-ink bg-panel px-2 font-figure text-[16px]"
      />
    </label>
  );
  return (
    <details className="my-2 text-[14px]">
      <summary className="underline decoration-dotted underline-offset-4">
        Begin anew on this rail
      </summary>
      <div className="flex flex-wrap items-center gap-3 py-2">
        {field("Sump's depth", depth, setDepth)}
        {field("Shelf's", shelf, setShelf)}
      </div>
      <p className="pb-2 text-ink-2">
        Zones, plates, bosses and marks of now go; one step of undo brings them back.
      </p>
      <div className="flex flex-wrap gap-2">
        {PLACES.map(([place, words]) => (
          <Button
            key={place}
            onClick={() => onAct({ kind: "sump_preset", place, depth_mm: depth, shelf_mm: shelf })}
          >
            Sump {words}
          </Button>
        ))}
      </div>
    </details>
  );
}
