import type { ReactElement } from "react";
import type { PressureStage } from "../../api/pressure";
import { useBuildView } from "../../document/BuildContext";
import { ofKind } from "../../document/circuit/circuit";
import { Notice } from "../../parts/Notice";
import { useSettings } from "../../parts/settings";
import { lengthAs, volumeAs } from "../../parts/units";

/** What a valve left open at shut-down does, and the cautions of a bottle under pressure. */
export function BottleStop({ stage }: { stage: PressureStage }): ReactElement | null {
  const { system, units } = useSettings();
  const { circuit } = useBuildView().build.document;
  const { stopped } = stage;
  if (!stopped) return null;
  const mm = (value: number): string => lengthAs(units, system, value).figure;
  const unit = lengthAs(units, system, 1).unit;
  const litres = (value: number): string => {
    const { figure, unit: litre } = volumeAs(units, system, value);
    return `${figure} ${litre}`;
  };
  const { shut, left_open: open } = stopped;
  const level =
    shut.level_mm !== null && open.level_mm !== null
      ? `: ${mm(shut.level_mm)} to ${mm(open.level_mm)} ${unit} in the pan`
      : ", more than pan and skirt hold";
  const mark =
    open.over_mark_mm === null
      ? ""
      : `, ${mm(Math.abs(open.over_mark_mm))} ${open.over_mark_mm >= 0 ? "over" : "under"} the full mark`;
  const crank =
    open.under_crank_mm === null
      ? ""
      : open.under_crank_mm >= 0
        ? `, ${mm(open.under_crank_mm)} under the crank`
        : `, ${mm(-open.under_crank_mm)} up into the crank's sweep`;
  const rating = ofKind(circuit, "accumulator")[0]?.rating_bar;
  return (
    <div className="mt-3 grid gap-2">
      <Notice kind="caution" title="Shut its valve before the engine stops.">
        <p>
          Left open, {litres(stopped.lands_l)} runs into the sump{level}
          {mark}
          {crank}. Shut it <em>while the pressure is high</em>: at speed it keeps{" "}
          {litres(stopped.kept_at_speed_l)}, at idle {litres(stopped.kept_at_idle_l)}.
        </p>
      </Notice>
      <p className="text-[13px] text-ink-2">
        A pressure vessel: let the pressure off before anything is opened, charge it with nitrogen
        through a regulator, never over its rating
        {rating ? ` (${rating} bar)` : " (look on its label and enter it under Numbers)"}, its own
        relief kept. In a cabin it wants a mount that holds in a crash and a shield; class rules and
        the maker&apos;s word decide. The lever lies clear of the gear lever.
      </p>
    </div>
  );
}
