import { useRef, type ReactElement } from "react";
import type { FlatPart, Making } from "../../../api/making";
import { ReadOut } from "../../../parts/ReadOut";
import { useSettings } from "../../../parts/settings";
import { useSize } from "../../../parts/size";
import { lengthAs } from "../../../parts/units";
import { bendsSentence } from "./pattern";
import { Pattern, SmallPattern } from "./Pattern";

/** Every part that is cut flat: one large, with its sizes, the others to be picked. */
export function Patterns({
  making,
  picked,
  onPick,
}: {
  making: Making;
  picked: FlatPart;
  onPick: (key: string) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const [frame, { width }] = useSize();
  const drawing = useRef<HTMLDivElement>(null);
  const thick = lengthAs(units, system, picked.thickness_mm);
  const bends = bendsSentence(picked);
  return (
    <section aria-label="Flat patterns" className="min-w-0 flex-1 overflow-y-auto">
      <div className="flex items-start justify-between gap-3 px-6 pt-3">
        <div>
          <h1 className="font-figure text-[22px] leading-7 font-semibold">
            {picked.name}, flat{bends ? `, ${bends}` : ""}
          </h1>
          <p className="text-[14px] text-ink-2">
            {thick.figure} {thick.unit}
            {picked.is_guessed ? " (a guess)" : ""} · {picked.about}
          </p>
        </div>
        <ReadOut name={`Pattern of ${picked.name}`} drawing={drawing} />
      </div>
      <div ref={frame} className="px-4">
        <div ref={drawing} className="flex justify-center">
          {width > 0 && <Pattern part={picked} width={width} height={390} />}
        </div>
      </div>
      <ul aria-label="Parts" className="flex flex-wrap gap-2 border-t border-hair px-6 py-3">
        {making.parts.map((part) => (
          <li key={part.key}>
            <button
              type="button"
              aria-pressed={part.key === picked.key}
              data-part={part.key}
              onClick={() => onPick(part.key)}
              className={`flex flex-col items-center gap-1 rounded-[2px] border px-2 py-1 text-[13px] ${part.key === picked.key ? "border-ink bg-panel" : "border-transparent hover:border-hair"}`}
            >
              <SmallPattern part={part} size={110} />
              {part.name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
