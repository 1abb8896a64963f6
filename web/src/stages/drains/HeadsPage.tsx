import { useState, type ReactElement } from "react";
import type { DrainsStage } from "../../api/drains";
import { Mark } from "../../parts/Mark";
import { useSettings } from "../../parts/settings";
import { gasFlowAs, lengthAs, volumeAs } from "../../parts/units";

type Head = DrainsStage["heads"][number];
type InCorner = Head["corners"][number];

const WIDE = 300; // [px] of a head's floor
const HIGH = 92;

/** A head's floor from above, its drains amber where oil lies over them. */
function Floor({ head, at }: { head: Head; at: InCorner | undefined }): ReactElement {
  const long = 2 * Math.max(20, ...head.drains.map(({ x_mm: x }) => Math.abs(x))) * 1.25;
  const wide = 2 * Math.max(10, ...head.drains.map(({ y_mm: y }) => Math.abs(y))) * 1.4;
  const scale = Math.min((WIDE - 8) / long, (HIGH - 8) / wide);
  const wet = at?.wet.filter(Boolean).length ?? 0;
  return (
    <svg
      width={WIDE}
      height={HIGH}
      role="img"
      aria-label={`Floor of the ${head.name}: ${wet} of ${head.drains.length} drains face downhill`}
      className="block font-figure"
    >
      <rect
        x={WIDE / 2 - (long * scale) / 2}
        y={HIGH / 2 - (wide * scale) / 2}
        width={long * scale}
        height={wide * scale}
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="1.75"
      />
      {head.drains.map((drain, index) => (
        <circle
          key={index}
          cx={WIDE / 2 - drain.x_mm * scale}
          cy={HIGH / 2 - drain.y_mm * scale}
          r={Math.max(4, (drain.bore_mm * scale) / 2)}
          fill={at?.wet[index] ? "var(--oil)" : "var(--paper)"}
          stroke={at?.wet[index] ? "var(--oil-deep)" : "var(--ink)"}
          strokeWidth="1.5"
          data-wet={at?.wet[index] ?? false}
        />
      ))}
    </svg>
  );
}

/** What freer returns would buy, in litres of the lap's mean. */
function Buys({ head }: { head: Head }): ReactElement {
  const { system, units } = useSettings();
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  return (
    <p className="py-1 text-[13px] text-ink-2">
      With its drains a quarter wider {litres(head.freer_mean_l)}
      {head.outside_mean_l !== null &&
        `, with a size 12 line outside besides ${litres(head.outside_mean_l)}`}
      , of {litres(head.mean_l)} now.
    </p>
  );
}

function OneHead({ head }: { head: Head }): ReactElement {
  const { system, units } = useSettings();
  const [picked, setPicked] = useState<number | null>(null);
  const most = [...head.corners].sort((a, b) => b.held_l - a.held_l)[0];
  const at = head.corners.find(({ corner }) => corner === picked) ?? most;
  const volume = (value: number): string => volumeAs(units, system, value).figure;
  const { unit } = volumeAs(units, system, 1);
  const bores = [...new Set(head.drains.map(({ bore_mm: bore }) => lengthAs(units, system, bore)))];
  const many = head.drains.reduce((sum, drain) => sum + drain.many, 0);
  const gas = gasFlowAs(units, system, head.gas_up_l_min);
  return (
    <section className="border-b border-ink px-4 pt-2 pb-3">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="min-w-0 truncate font-figure text-[18px] font-semibold">{head.name}</h2>
        <span className="shrink-0 font-figure text-[16px] font-semibold">
          {volume(head.mean_l)}, at the most {volume(head.most_l)} {unit}
        </span>
      </div>
      <p className="text-[13px] text-ink-2">
        {many.toFixed(0)} drains, {bores[0]?.figure} {bores[0]?.unit}
        {head.measured ? "" : ": a guess until they are measured"}. Oil stands up to{" "}
        {lengthAs(units, system, head.deepest_mm).figure} {lengthAs(units, system, 1).unit} at the
        wall that it is thrown to.
      </p>
      {head.gas_up_l_min > 0 && (
        <p className="flex items-start gap-2 text-[13px] text-ink-2">
          <Mark state="caution" size={16} />
          <span className="min-w-0 flex-1">
            {gas.figure} {gas.unit} of blow-by goes up through its drains: gas needs its own way up,
            or it holds the oil there.
          </span>
        </p>
      )}
      <Floor head={head} at={at} />
      {head.corners.length > 0 && (
        <ol className="flex flex-wrap gap-1 pt-1">
          {head.corners.map((each) => (
            <li key={each.corner}>
              <button
                type="button"
                aria-pressed={at?.corner === each.corner}
                onClick={() => setPicked(each.corner)}
                className={`border border-ink px-2 py-0.5 font-figure text-[14px] ${
                  at?.corner === each.corner ? "bg-ink text-paper" : ""
                }`}
              >
                {each.corner} {each.hand === "left" ? "L" : "R"}: {volume(each.held_l)}
              </button>
            </li>
          ))}
        </ol>
      )}
      <Buys head={head} />
    </section>
  );
}

/** Heads over the lap: what lies in them, corner by corner, and what freer returns would buy. */
export function HeadsPage({ stage }: { stage: DrainsStage }): ReactElement {
  return (
    <>
      <p className="px-4 pt-2 text-[13px] text-ink-2">
        Oil that went up and is on its way back, its feed as with a covered mouth. It is missing in
        the pan meanwhile.
      </p>
      {stage.heads.map((head) => (
        <OneHead key={head.component} head={head} />
      ))}
      {stage.heads.length === 0 && <p className="px-4 py-3 text-[14px]">No head in the circuit.</p>}
    </>
  );
}
