import type { ReactElement } from "react";
import { useBuildView } from "../../document/BuildContext";
import { HeadFigure } from "../../document/HeadFigure";
import { unread } from "../../document/unread";
import { useSettings } from "../../parts/settings";
import { pressureAs } from "../../parts/units";

const NAME = "Lowest gallery";

/** The gallery's pressure at its worst moment of the lap, and what is usual there. */
export function LowestFigure({ to }: { to: string }): ReactElement {
  const { build, forecast } = useBuildView();
  const { system, units } = useSettings();
  const { figures, settled } = forecast;
  if (!figures?.pressure) {
    const word = unread(forecast) ?? (settled.data?.lap === null ? "no lap" : "needs a run");
    return <HeadFigure name={NAME} to={to} value={null} mark="nothing" word={word} />;
  }
  const { lowest_bar: lowest, usual_bar: usual, band_bar: band, dips } = figures.pressure;
  const told = (bar: number): string => pressureAs(units, system, bar).figure;
  const shown = pressureAs(units, system, lowest);
  const off = band ? told(Math.max(lowest - band[0], band[1] - lowest)) : "";
  const isTold = band !== null && Number(off) > 0;
  const isYours = build.invented.length === 0;
  return (
    <HeadFigure
      name={NAME}
      to={to}
      value={shown.figure}
      unit={shown.unit}
      mark={!isYours ? "nothing" : dips.length > 0 ? "bad" : "good"}
      word={!isYours ? "not yours" : isTold ? `±${off} of ${told(usual)}` : `usual ${told(usual)}`}
      title={
        isTold
          ? `${told(band[0])} to ${told(band[1])} ${shown.unit} by how far the pump slips on gas; usual there is ${told(usual)}`
          : undefined
      }
    />
  );
}
