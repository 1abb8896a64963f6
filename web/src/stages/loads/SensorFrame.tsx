import type { ReactElement } from "react";
import type { Reading } from "../../api/logs";

function Figure({
  label,
  unit,
  value,
  onSet,
}: {
  label: string;
  unit: string;
  value: number;
  onSet: (value: number) => void;
}): ReactElement {
  return (
    <label className="text-[14px] text-ink-2">
      {label}
      <span className="flex items-baseline gap-1">
        <input
          key={value}
          defaultValue={value}
          inputMode="decimal"
          className="h-8 w-20 border border-ink bg-panel px-2 font-figure text-[16px] text-ink"
          onBlur={(event) => {
            const next = Number(event.target.value.replace(",", ".").replace("−", "-"));
            if (Number.isFinite(next) && next !== value) onSet(next);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
          }}
        />
        {unit}
      </span>
    </label>
  );
}

/** How the accelerometer sits: turned, tilted, and how far from the engine. */
export function SensorFrame({
  reading,
  fault,
  onChange,
}: {
  reading: Reading;
  fault: string | undefined;
  onChange: (reading: Reading) => void;
}): ReactElement {
  const { sensor } = reading;
  const set = (change: Partial<typeof sensor>): void =>
    onChange({ ...reading, sensor: { ...sensor, ...change } });
  const asFitted =
    sensor.turned_left_deg === 0 &&
    !sensor.level_standing &&
    sensor.ahead_mm === 0 &&
    sensor.left_mm === 0;
  return (
    <details className="mt-2" open={!asFitted || fault !== undefined || undefined}>
      <summary className="text-[14px] underline decoration-dotted underline-offset-4">
        How the logger sits in the car{asFitted ? ": square, level, at the engine" : ""}
      </summary>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <Figure
          label="Turned to the left by"
          unit="deg"
          value={sensor.turned_left_deg}
          onSet={(turned_left_deg) => set({ turned_left_deg })}
        />
        <label className="flex items-center gap-2 pb-1 text-[14px]">
          <input
            type="checkbox"
            checked={sensor.level_standing}
            onChange={(event) => set({ level_standing: event.target.checked })}
            className="size-4 accent-[var(--ink)]"
          />
          take its tilt out, from where the car stands
        </label>
        <Figure
          label="Ahead of the pan by"
          unit="mm"
          value={sensor.ahead_mm}
          onSet={(ahead_mm) => set({ ahead_mm })}
        />
        <Figure
          label="Left of it by"
          unit="mm"
          value={sensor.left_mm}
          onSet={(left_mm) => set({ left_mm })}
        />
      </div>
      <p className="mt-1 text-[13px] text-ink-2">
        Moving it to the pan takes a yaw rate. A sensor on the body already feels banking and roll:
        nothing is added for them.
      </p>
      {fault && (
        <p role="alert" className="text-[13px] text-bad">
          {fault}
        </p>
      )}
    </details>
  );
}
