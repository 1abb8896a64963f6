import type { ReactElement } from "react";
import { useBuildView } from "../../document/BuildContext";
import { HeadFigure } from "../../document/HeadFigure";
import { unread } from "../../document/unread";
import { useSettings } from "../../parts/settings";
import { lengthAs } from "../../parts/units";
import { worstDrain } from "./worstDrain";

const NAME = "Worst drain";

/** Head that the worst drain has to spare at the lap's worst; minus what is short. */
export function WorstFigure({ to }: { to: string }): ReactElement {
  const { build, forecast } = useBuildView();
  const { system, units } = useSettings();
  if (forecast.settled.data?.lap === null)
    return <HeadFigure name={NAME} to={to} value={null} mark="nothing" word="no lap" />;
  const worst = worstDrain(forecast.over);
  if (!worst || worst.spare_mm === null) {
    const word = worst ? "no place" : (unread(forecast) ?? "no drains");
    return <HeadFigure name={NAME} to={to} value={null} mark="nothing" word={word} />;
  }
  const { figure, unit } = lengthAs(units, system, worst.spare_mm);
  const isYours = build.invented.length === 0;
  return (
    <HeadFigure
      name={NAME}
      to={to}
      value={figure.replace("-", "−")}
      unit={unit}
      mark={!isYours || worst.state === "none" ? "nothing" : worst.state}
      word={isYours ? (worst.state === "bad" ? "backs up" : "to spare") : "not yours"}
    />
  );
}
