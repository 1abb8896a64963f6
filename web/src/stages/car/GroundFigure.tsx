import type { ReactElement } from "react";
import { usePan } from "../../api/queries";
import { useBuildView } from "../../document/BuildContext";
import { HeadFigure } from "../../document/HeadFigure";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";

const NAME = "To the ground";

/** The gap under the pan's lowest corner, against the one that is wanted. */
export function GroundFigure({ to }: { to: string }): ReactElement {
  const { system, units } = useSettings();
  const { build, isCalm } = useBuildView();
  const pan = usePan(build, isCalm).data;
  if (!pan) return <HeadFigure name={NAME} to={to} value={null} mark="nothing" word="being read" />;
  const { ground } = pan;
  if (!ground)
    return <HeadFigure name={NAME} to={to} value={null} mark="nothing" word="not given" />;
  const { figure, unit } = lengthAs(units, system, ground.gap_mm);
  const shown = { name: NAME, to, value: figure, unit };
  if (ground.margin_mm === null)
    return <HeadFigure {...shown} mark="caution" word="want not said" />;
  const wanted = lengthAs(units, system, ground.gap_mm - ground.margin_mm);
  return (
    <HeadFigure
      {...shown}
      mark={ground.margin_mm < 0 ? "bad" : "good"}
      word={`want ${wanted.figure}`}
    />
  );
}
