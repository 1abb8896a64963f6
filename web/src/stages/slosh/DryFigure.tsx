import type { ReactElement } from "react";
import { useBuildView } from "../../document/BuildContext";
import { HeadFigure } from "../../document/HeadFigure";
import { unread } from "../../document/unread";
import { yours } from "../../parts/verdict";

/** The dry time over the lap, and of which oil it is. */
export function DryFigure({ to }: { to: string }): ReactElement {
  const { build, forecast } = useBuildView();
  const { judged } = forecast;
  const verdict = judged && yours(judged.oil, build.invented);
  const dry = verdict?.dry_s ?? null;
  if (dry === null) {
    const word = unread(forecast) ?? "no lap";
    return <HeadFigure name="Runs dry" to={to} value={null} mark="nothing" word={word} />;
  }
  const isYours = verdict?.state !== "not_yours";
  return (
    <HeadFigure
      name={judged?.moves ? "Dry, moving" : "Dry, settled"}
      to={to}
      value={dry.toFixed(1)}
      unit="s/lap"
      mark={!isYours ? "nothing" : dry > 0 ? "bad" : "good"}
      word={!isYours ? "not yours" : dry > 0 ? "want 0.0" : "as wanted"}
    />
  );
}
