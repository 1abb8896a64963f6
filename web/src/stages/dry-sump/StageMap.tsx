import type { ReactElement } from "react";
import type { Dry, DryOverLap, InCorner } from "../../api/dry";
import { AirBar } from "../../drawing/AirBar";
import { useSettings } from "../../parts/settings";
import { shownAs, volumeAs } from "../../parts/units";
import { isAir, oilWord } from "./flow";

const BAR = { width: 57, height: 14 } as const;

function ShareBar({ share }: { share: number }): ReactElement {
  const oil = BAR.width * Math.max(0, Math.min(1, share));
  return (
    <svg width={BAR.width} height={BAR.height} aria-hidden="true" className="block">
      <AirBar x={0.5} y={0.5} width={BAR.width - 1} height={BAR.height - 1} />
      <rect x="0.5" y="0.5" width={oil} height={BAR.height - 1} fill="var(--oil)" />
      <rect
        x="0.5"
        y="0.5"
        width={BAR.width - 1}
        height={BAR.height - 1}
        fill="none"
        stroke="var(--ink)"
      />
    </svg>
  );
}

const hasCalled = ({ name, number }: InCorner): string => name || `${number}`;

/** Which stage draws oil and which air, corner by corner. */
export function StageMap({
  dry,
  over,
  time,
  onTime,
}: {
  dry: Dry;
  over: DryOverLap;
  time: number;
  onTime: (time: number) => void;
}): ReactElement {
  const { system, units } = useSettings();
  const swept = (cm3: number): string => {
    const shown = shownAs(units, "displacement_cm3", system, cm3);
    return shown ? `${shown.figure} ${shown.unit}` : `${cm3.toFixed(1)} cm³`;
  };
  const start = over.traces.time_s[0] ?? 0;
  const isHere = (corner: InCorner): boolean => Math.abs(corner.at_s - start - time) < 1;
  if (over.corners.length === 0)
    return (
      <p className="px-6 py-3 text-[14px] text-ink-2">The lap has no corners to tell apart.</p>
    );
  return (
    <div className="overflow-x-auto px-6 pb-3" tabIndex={0} aria-label="Stages, corner by corner">
      <table className="text-[14px]">
        <thead>
          <tr className="border-b border-ink text-left align-bottom">
            <th scope="col" className="sticky left-0 min-w-32 bg-paper pr-2 pb-1 font-normal">
              <span className="sr-only">Stage</span>
            </th>
            {over.corners.map((corner) => (
              <th key={corner.number} scope="col" className="pr-1 pb-1">
                <button
                  type="button"
                  onClick={() => onTime(corner.at_s - start)}
                  aria-pressed={isHere(corner)}
                  className={`block w-full border px-1 text-left ${isHere(corner) ? "border-ink" : "border-transparent hover:border-hair"}`}
                >
                  <span className="block font-figure font-semibold whitespace-nowrap">
                    {hasCalled(corner)} {corner.hand}
                  </span>
                  <span className="block text-[13px] font-normal text-ink-2">
                    {corner.peak_g.toFixed(2)} g
                  </span>
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {dry.stages.map((stage, at) => (
            <tr key={stage.id} className="border-b border-hair align-top">
              <th scope="row" className="sticky left-0 bg-paper py-1 pr-3 text-left font-semibold">
                {at + 1} {stage.name}
                <span className="block text-[13px] font-normal text-ink-2">
                  {swept(stage.displacement_cm3)} a turn
                </span>
              </th>
              {over.corners.map((corner) => {
                const share = corner.shares[at] ?? 0;
                return (
                  <td key={corner.number} className="py-1 pr-1">
                    <ShareBar share={share} />
                    <span
                      className={`font-figure text-[13px] ${isAir(share) ? "text-air-ink" : ""}`}
                    >
                      {oilWord(share)}
                    </span>
                  </td>
                );
              })}
            </tr>
          ))}
          <tr className="border-b border-hair align-top">
            <th scope="row" className="sticky left-0 bg-paper py-1 pr-3 text-left font-semibold">
              all, worst second
            </th>
            {over.corners.map((corner) => (
              <td key={corner.number} className="py-1 pr-1 font-figure">
                {oilWord(corner.worst)}
              </td>
            ))}
          </tr>
          <tr className="align-top">
            <th scope="row" className="sticky left-0 bg-paper py-1 pr-3 text-left font-semibold">
              left in the pan
            </th>
            {over.corners.map((corner) => {
              const { figure, unit } = volumeAs(units, system, corner.left_l);
              return (
                <td key={corner.number} className="py-1 pr-1 font-figure">
                  {figure} {unit}
                </td>
              );
            })}
          </tr>
        </tbody>
      </table>
    </div>
  );
}
