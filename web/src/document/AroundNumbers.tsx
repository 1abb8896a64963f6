import type { ReactElement } from "react";
import type { BuildDocument, PanFigures } from "../api/queries";
import { Button } from "../parts/Button";
import { FigureGroup } from "../parts/FigureGroup";
import { Mark } from "../parts/Mark";
import { useSettings } from "../parts/settings";
import { lengthAs } from "../parts/units";
import { NotYours } from "./NotYours";
import { keepOutSpecs, USUAL_CRANK, USUAL_KEEP_OUTS, type KeepOut } from "./parts";
import { freeName, RecordParts, Records, type Spec } from "./Records";
import type { Replace, Type } from "./ZoneNumbers";

const CRANK: readonly Spec[] = [
  { kind: "figure", key: "height_mm", label: "Centreline above the rail" },
  { kind: "figure", key: "swept_radius_mm", label: "Radius that rods and weights sweep" },
  { kind: "figure", key: "from_x_mm", label: "Rearmost throw, ahead of the rear face" },
  { kind: "figure", key: "to_x_mm", label: "Foremost throw" },
];

/** The smallest gaps, tightest first, and what stands at a usual place still. */
export function GapList({
  pan,
  keepOuts,
}: {
  pan: PanFigures | undefined;
  keepOuts: readonly KeepOut[];
}): ReactElement | null {
  const { system, units } = useSettings();
  const unmeasured = keepOuts.filter(({ assumed }) => assumed);
  if (!pan || pan.clearances.length + unmeasured.length === 0) return null;
  const length = (mm: number): string => {
    const { figure, unit } = lengthAs(units, system, mm);
    return `${figure} ${unit}`;
  };
  return (
    <ul className="py-1 text-[14px]" data-gaps>
      {pan.clearances.map((each) => {
        const state = each.gap_mm < 0 ? "bad" : each.gap_mm < each.wanted_mm ? "caution" : "good";
        return (
          <li key={each.index} className="flex items-center gap-2 border-b border-hair py-1">
            <Mark state={state} size={16} />
            <span className="min-w-0 flex-1 truncate">{each.name}</span>
            <span className="font-figure text-[16px] font-semibold">
              {each.gap_mm < 0 ? `${length(-each.gap_mm)} into it` : length(each.gap_mm)}
            </span>
            <span className="w-24 text-right text-[13px] text-ink-2">
              want {length(each.wanted_mm)}
            </span>
          </li>
        );
      })}
      {unmeasured.map(({ id, name }) => (
        <li key={id} className="flex items-center gap-2 border-b border-hair py-1">
          <Mark state="nothing" size={16} />
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <span className="text-[13px] text-ink-2">not measured: no gap is told</span>
        </li>
      ))}
    </ul>
  );
}

/** The crank over the pan, and what is round it in the car. */
export function AroundNumbers({
  document,
  pan,
  onType,
  onReplace,
}: {
  document: BuildDocument;
  pan: PanFigures | undefined;
  onType: Type;
  onReplace: Replace;
}): ReactElement {
  const { car } = document;
  const put = (change: Partial<typeof car>, words: string): void =>
    onReplace({ ...document, car: { ...car, ...change } }, words);
  return (
    <>
      <FigureGroup title="What is round the pan">
        <GapList pan={pan} keepOuts={car.keep_outs} />
        <Records
          records={car.keep_outs}
          path="car.keep_outs"
          empty="Nothing yet. Measure from the pan rail's rear face, under the crank; the gaps are then drawn and listed."
          specsOf={keepOutSpecs}
          nameOf={({ name }) => name}
          isAssumed={({ assumed }) => assumed}
          additions={USUAL_KEEP_OUTS.map(({ words, make }) => ({
            words,
            make: () => {
              const made = make();
              return { ...made, name: freeName(car.keep_outs, made.name) };
            },
          }))}
          onType={onType}
          onPut={(keep_outs, words) => put({ keep_outs }, words)}
        />
      </FigureGroup>
      <FigureGroup title="Crank">
        {car.crank ? (
          <>
            {car.crank.assumed && <NotYours />}
            <RecordParts
              record={car.crank}
              path="car.crank"
              specs={CRANK}
              onType={onType}
              onPut={(crank) => put({ crank }, "crank")}
            />
          </>
        ) : (
          <div className="py-2 text-[14px]">
            <p className="pb-2 text-ink-2">
              With its centreline and the circle that it sweeps, oil and tray are checked against
              it.
            </p>
            <Button onClick={() => put({ crank: USUAL_CRANK }, "crank")}>Put the crank in</Button>
          </div>
        )}
      </FigureGroup>
    </>
  );
}
