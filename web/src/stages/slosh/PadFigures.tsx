import { useState, type ReactElement } from "react";
import { heldTo, type Load } from "../../plots/rose";

/** Two places, nil without a sign. */
const rounded = (value: number): string => (Math.round(value * 100) / 100 + 0).toFixed(2);

function GField({
  label,
  value,
  onType,
}: {
  label: string;
  value: number;
  onType: (value: number) => void;
}): ReactElement {
  const [typed, setTyped] = useState<string | null>(null);
  const number =
    typed === null
      ? value
      : Number(typed.replace(",", ".").replace("−", "-").replace(/\s*g$/i, ""));
  const wrong = typed !== null && (typed.trim() === "" || !Number.isFinite(number));
  const commit = (): void => {
    if (typed !== null && !wrong) {
      setTyped(null);
      onType(number);
    }
  };
  return (
    <label className="flex items-baseline gap-1 font-figure text-[14px] text-ink-2">
      {label}
      <input
        value={typed ?? rounded(value)}
        inputMode="decimal"
        autoComplete="off"
        aria-invalid={wrong}
        onChange={(event) => setTyped(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") commit();
          if (event.key === "Escape") setTyped(null);
        }}
        className={`w-12 border-b border-dotted bg-transparent text-right text-[16px] font-semibold ${wrong ? "border-bad text-bad" : "border-ink text-ink"}`}
      />
      g
    </label>
  );
}

/** The pad's load as figures to type, and the way back to the lap. */
export function PadFigures({
  load,
  rim,
  steady,
  hasLap,
  onLoad,
  onBack,
}: {
  load: Load;
  rim: number;
  steady: boolean;
  hasLap: boolean;
  onLoad: (load: Load) => void;
  onBack: () => void;
}): ReactElement {
  return (
    <div className="flex items-center justify-between gap-2">
      <span title="plus: left turn, oil to the right">
        <GField
          label="side"
          value={load.sideG}
          onType={(sideG) => onLoad(heldTo(rim, { ...load, sideG }))}
        />
      </span>
      <span title="plus: gaining speed; minus: braking">
        <GField
          label="fore"
          value={load.foreG}
          onType={(foreG) => onLoad(heldTo(rim, { ...load, foreG }))}
        />
      </span>
      <button
        type="button"
        disabled={!steady}
        onClick={onBack}
        className="border-b border-ink font-figure text-[14px] disabled:border-transparent disabled:text-ink-2"
      >
        {steady ? (hasLap ? "back to the lap" : "back to rest") : "drag, or arrow keys"}
      </button>
    </div>
  );
}
