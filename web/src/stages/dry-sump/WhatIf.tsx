import type { ReactElement } from "react";
import type { Dry } from "../../api/dry";
import { useSettings } from "../../parts/settings";
import { lengthAs, volumeAs } from "../../parts/units";
import { alikeSentence, carriedSentence } from "./lost";
import { ScavengeRoseDrawn } from "./ScavengeRoseDrawn";

/** The lap again without each stage. */
function WithoutEach({ dry }: { dry: Dry }): ReactElement {
  const { system, units } = useSettings();
  return (
    <table className="w-full text-[14px]">
      <thead>
        <tr className="border-b border-ink text-left text-[13px] text-ink-2">
          <th scope="col" className="font-normal">
            blocked
          </th>
          <th scope="col" className="pl-2 text-right font-normal">
            left in the pan
          </th>
          <th scope="col" className="pl-2 text-right font-normal">
            over the outlet
          </th>
        </tr>
      </thead>
      <tbody>
        {dry.without.map((lost) => {
          const left = volumeAs(units, system, lost.left_l);
          const cover = lengthAs(units, system, lost.cover_mm);
          return (
            <tr key={lost.id} className="border-b border-hair align-top" data-without={lost.id}>
              <th scope="row" className="text-left font-normal">
                {lost.name}
              </th>
              <td className="pl-2 text-right font-figure">
                {left.figure} {left.unit}
              </td>
              <td className="pl-2 text-right font-figure">
                {lost.bare_after_s === null ? (
                  `${cover.figure} ${cover.unit}`
                ) : (
                  <span className="font-semibold text-bad">
                    bare after {lost.bare_after_s.toFixed(1)} s
                  </span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Each two pickups on one stage, as against a stage each. */
function OnOneStage({ dry }: { dry: Dry }): ReactElement {
  const { system, units } = useSettings();
  const litres = (value: number): string => {
    const { figure, unit } = volumeAs(units, system, value);
    return `${figure} ${unit}`;
  };
  return (
    <section aria-label="Two pickups on one stage">
      <h2 className="font-figure text-[18px] font-semibold">Two pickups on one stage</h2>
      <p className="pb-1 text-[13px] text-ink-2">
        The same lap, the same swept volume in all. Starved: one is in oil, and the stage draws air
        by the other. Settled oil.
      </p>
      <table className="w-full text-[14px]">
        <thead>
          <tr className="border-b border-ink text-left text-[13px] text-ink-2">
            <th scope="col" className="font-normal">
              together
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              starved
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              left in the pan
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              a stage each
            </th>
          </tr>
        </thead>
        <tbody>
          {dry.shared.map((pair) => (
            <tr key={pair.names.join()} className="border-b border-hair align-top" data-shared>
              <th scope="row" className="text-left font-normal">
                {pair.names.join(" + ")}
                {pair.is_built && <span className="block font-semibold">as it is built</span>}
              </th>
              <td className="pl-2 text-right font-figure">{pair.starved_s.toFixed(1)} s</td>
              <td
                className={`pl-2 text-right font-figure ${pair.is_built ? "font-semibold text-bad" : ""}`}
              >
                {litres(pair.one_left_l)}
              </td>
              <td className="pl-2 text-right font-figure">{litres(pair.each_left_l)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-2 text-[14px]">{alikeSentence(dry.alike)}</p>
    </section>
  );
}

/** What each stage is worth: by steady load, without each in turn, and the gas they bring. */
export function WhatIf({ dry }: { dry: Dry }): ReactElement {
  const { system } = useSettings();
  return (
    <div className="grid gap-6 border-t border-hair px-6 py-4 lg:grid-cols-2">
      {dry.rose && (
        <section aria-label="Scavenge rose">
          <h2 className="font-figure text-[18px] font-semibold">Enough, whichever way</h2>
          <p className="pb-2 text-[13px] text-ink-2">
            Capacity of the stages that have oil, times what comes down. Settled oil.
          </p>
          <ScavengeRoseDrawn rose={dry.rose} />
        </section>
      )}
      <div className="flex flex-col gap-5">
        {dry.without.length > 0 && (
          <section aria-label="If a stage is lost">
            <h2 className="font-figure text-[18px] font-semibold">If a stage is lost</h2>
            <p className="pb-1 text-[13px] text-ink-2">
              The same lap with its inlet blocked. Settled oil.
            </p>
            <WithoutEach dry={dry} />
            <p className="pt-2 text-[14px]">
              A belt that is thrown stops every stage and the pressure stage with them: the gallery
              has no feed. Switch off at once; a warning lamp is quicker than a gauge.
            </p>
          </section>
        )}
        {dry.shared.length > 0 && <OnOneStage dry={dry} />}
        {dry.carried && (
          <section aria-label="Separator">
            <h2 className="font-figure text-[18px] font-semibold">Gas on the way back</h2>
            <p className="text-[14px]">{carriedSentence(dry.carried)}</p>
            <p className="pt-1 text-[13px] text-ink-2">
              Common practice, no published source: a separator ahead of the cooler is said to lower
              the oil&apos;s temperature by {system === "us" ? "9 to 18 °F" : "5 to 10 °C"}. No
              temperature is worked out from it here.
            </p>
          </section>
        )}
      </div>
    </div>
  );
}
